import { useNavigate } from 'react-router';
import { usePageKeys } from '../kit/layout/use-page-keys.js';

/** Lists of submissions that keys step through. */
interface Lists {
  /** Every submission: `[` and `]`. */
  readonly all: readonly string[];
  /** Those that count, one of each student: `k` and `j`. */
  readonly counting: readonly string[];
}

/**
 * The keys that step through submissions, each list as a ring. From one that is not in a list they go to its first or last.
 *
 * @returns the place of the submission that is opened, in words
 */
export function useStepping(
  { all, counting }: Lists,
  opened: string | null,
  to: (submission: string) => string,
): { readonly place: string } {
  const navigate = useNavigate();
  const step = (list: readonly string[], way: 1 | -1) => () => {
    const index = opened === null ? -1 : list.indexOf(opened);
    const next = index < 0 ? list.at(way > 0 ? 0 : -1) : list[(index + way + list.length) % list.length];
    if (next !== undefined) void navigate(to(next));
  };
  usePageKeys({
    '[': step(all, -1),
    ']': step(all, 1),
    k: step(counting, -1),
    j: step(counting, 1),
  });
  const index = opened === null ? -1 : all.indexOf(opened);
  return { place: `[ ${index + 1} of ${all.length} ]` };
}
