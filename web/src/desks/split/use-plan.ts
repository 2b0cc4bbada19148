import { shownValues, type Planned, type SentenceKind } from '@modest-sieve/core';
import equal from 'fast-deep-equal';
import { useState } from 'react';
import { useAddressed } from '../../kit/use-address.js';

/** Plans that the page's address holds under their names, so that they can be shared and survive a reload. */
export function useAddressedPlans(names: readonly string[], kinds: readonly SentenceKind[]) {
  const { search, change } = useAddressed();
  const [past, setPast] = useState<readonly Readonly<Record<string, string>>[]>([]);
  const before = past.at(-1);
  const plans = new Map(names.map((name) => [name, planIn(search.get(name), kinds)]));
  return {
    planOf: (name: string): Planned | null => plans.get(name) ?? null,
    /** All that changes at once: the address as it was drawn last is what a change goes on from. */
    setPlans: (changes: Readonly<Record<string, Planned | null>>) => {
      setPast([...past, Object.fromEntries(names.map((name) => [name, search.get(name) ?? '']))]);
      change(
        Object.fromEntries(
          Object.entries(changes).map(([name, plan]) => [name, plan === null ? '' : JSON.stringify(plan)]),
        ),
      );
    },
    /** Takes the latest change back; null where there is none. */
    undo: before
      ? () => {
          setPast(past.slice(0, -1));
          change(before);
        }
      : null,
  };
}

/** The plan that a text holds; null for anything that is none. */
export function planIn(text: string | null, kinds: readonly SentenceKind[]): Planned | null {
  if (text === null) return null;
  try {
    const { kind, values } = JSON.parse(text) as Partial<Planned>;
    const known = kinds.find(({ key }) => key === kind);
    return known && typeof values === 'object' ? { kind: known.key, values } : null;
  } catch {
    return null;
  }
}

/** Whether two plans ask for the same, whatever parameters that do not count hold. */
export function samePlan(kinds: readonly SentenceKind[], a: Planned, b: Planned): boolean {
  const kind = kinds.find(({ key }) => key === a.kind);
  return kind !== undefined && a.kind === b.kind && equal(shownValues(kind, a), shownValues(kind, b));
}

/** A plan of another kind that keeps what both have in common. */
export function turnedInto(begun: Planned, from: Planned): Planned {
  const kept = Object.entries(begun.values).map(([key, value]) => {
    const other = from.values[key];
    return [key, other !== undefined && typeof other === typeof value ? other : value] as const;
  });
  return { ...begun, values: Object.fromEntries(kept) };
}
