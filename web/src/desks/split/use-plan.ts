import { shownValues, type Plan, type SentenceKind } from '@modest-sieve/core/data';
import equal from 'fast-deep-equal';
import { useEffect, useState } from 'react';
import { NO_HISTORY, redone, remember, settled, undone, type History } from '../../kit/sentence/history.js';
import { useAddressed } from '../../kit/layout/use-address.js';

/** Plans as the address holds them, by their names. */
type Addressed = Readonly<Record<string, string>>;

/** Plans that the page's address holds under their names, so that they can be shared and survive a reload. */
export function useAddressedPlans(names: readonly string[], kinds: readonly SentenceKind[]) {
  const { search, change } = useAddressed();
  const [history, setHistory] = useState<History<Addressed>>(NO_HISTORY);
  useEffect(() => {
    const settle = () => setHistory(settled);
    document.addEventListener('focusout', settle);
    return () => document.removeEventListener('focusout', settle);
  }, []);
  const now = Object.fromEntries(names.map((name) => [name, search.get(name) ?? '']));
  const move = (moved: ReturnType<typeof undone<Addressed>>) =>
    moved
      ? () => {
          setHistory(moved.history);
          change(moved.state);
        }
      : null;
  const plans = new Map(names.map((name) => [name, planIn(search.get(name), kinds)]));
  return {
    planOf: (name: string): Plan | null => plans.get(name) ?? null,
    /**
     * All that changes at once: the address as it was drawn last is what a change goes on from.
     *
     * @param what the parameter that is changed, so that typing it is one change; null for more than one
     */
    setPlans: (changes: Readonly<Record<string, Plan | null>>, what: string | null = null) => {
      setHistory(remember(history, now, what));
      change(
        Object.fromEntries(
          Object.entries(changes).map(([name, plan]) => [name, plan === null ? '' : JSON.stringify(plan)]),
        ),
      );
    },
    undo: move(undone(history, now)),
    redo: move(redone(history, now)),
  };
}

/** The plan that a text holds; null for anything that is none. */
export function planIn(text: string | null, kinds: readonly SentenceKind[]): Plan | null {
  if (text === null) return null;
  try {
    const { kind, values } = JSON.parse(text) as Partial<Plan>;
    const known = kinds.find(({ key }) => key === kind);
    return known && typeof values === 'object' ? { kind: known.key, values } : null;
  } catch {
    return null;
  }
}

/** Whether two plans ask for the same, whatever parameters that do not count hold. */
export function samePlan(kinds: readonly SentenceKind[], a: Plan, b: Plan): boolean {
  const kind = kinds.find(({ key }) => key === a.kind);
  return kind !== undefined && a.kind === b.kind && equal(shownValues(kind, a), shownValues(kind, b));
}

/** A plan of another kind that keeps what both have in common. */
export function turnedInto(begun: Plan, from: Plan): Plan {
  const saved = Object.entries(begun.values).map(([key, value]) => {
    const other = from.values[key];
    return [key, other !== undefined && typeof other === typeof value ? other : value] as const;
  });
  return { ...begun, values: Object.fromEntries(saved) };
}
