import { LARGEST_SEED, type SplitPlan } from '@modest-sieve/core';
import { useSearchParams } from 'react-router';
import { useDataSet } from '../data-set-page.js';

const DEFAULT_SEED = 2718;

/** The plan that the page's address holds, so that it can be shared and survives a reload. */
export function usePlan(): { plan: SplitPlan; setPlan: (plan: SplitPlan) => void } {
  const { dataSet } = useDataSet();
  const [search, setSearch] = useSearchParams();
  const start = dataSet.splits[0]?.plan ?? {
    shares: { training: 80, validation: 0, heldout: 20 },
    stratify: dataSet.roles?.target ?? null,
    group: dataSet.roles?.group ?? null,
    seed: DEFAULT_SEED,
  };
  const shares = search.get('shares')?.split('-').map(Number);
  const [training, validation, heldout] = shares ?? [];
  const named = (key: 'stratify' | 'group') => {
    const name = search.get(key);
    return name === null ? start[key] : dataSet.profile.some((column) => column.name === name) ? name : null;
  };
  const seed = Number(search.get('seed') ?? start.seed);
  const plan: SplitPlan = {
    shares:
      training !== undefined && validation !== undefined && heldout !== undefined
        ? { training, validation, heldout }
        : start.shares,
    stratify: named('stratify'),
    group: named('group'),
    seed: Number.isInteger(seed) && seed >= 0 && seed <= LARGEST_SEED ? seed : DEFAULT_SEED,
  };
  const setPlan = (next: SplitPlan) =>
    setSearch(
      {
        shares: [next.shares.training, next.shares.validation, next.shares.heldout].join('-'),
        stratify: next.stratify ?? '',
        group: next.group ?? '',
        seed: String(next.seed),
      },
      { replace: true },
    );
  return { plan, setPlan };
}
