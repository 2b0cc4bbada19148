import { check, type Check } from '../../foundation/check.js';
import { count, counted } from '../../foundation/numbers.js';
import type { Drift } from './drift.js';
import type { PartRows } from './part-summary.js';
import type { SplitQuality } from './quality.js';

/** Common practice: means less than a quarter of a standard deviation apart are near enough. */
const LARGE_DRIFT = 0.25;
/** Common practice: shares of a class within five points of each other are near enough. */
const WIDE_SHARES = 0.05;
const MOST_DRIFTS = 3;

/** How far the shares of a class lie apart at most. */
function shareCheck(parts: readonly PartRows[], labels: readonly string[], target: string): Check {
  let widest = { label: '', low: 0, high: 0 };
  labels.forEach((label, code) => {
    const shares = parts.map((part) => part.classes[code]?.share ?? 0);
    const [low, high] = [Math.min(...shares), Math.max(...shares)];
    if (high - low >= widest.high - widest.low) widest = { label, low, high };
  });
  const points = ((widest.high - widest.low) * 100).toFixed(1);
  const percent = (share: number) => `${(share * 100).toFixed(1)} %`;
  return check(
    'shares',
    widest.high - widest.low < WIDE_SHARES ? 'holds' : 'unsure',
    `Shares of ${target} within ${points} points of each other`,
    {
      measured: `widest: “${widest.label}”, ${percent(widest.low)} to ${percent(widest.high)}`,
      expected: 'within 5 points',
    },
  );
}

/**
 * Groups that have rows in more parts than one: a fault, unless parts follow one another in time, where the same groups
 * are met again by intent.
 */
const crossingCheck = (
  groups: {
    readonly column: string;
    readonly groups: number;
    readonly crossing: number;
    readonly examples: readonly string[];
  },
  followsTime: boolean,
): Check =>
  check('groups', followsTime ? 'unsure' : 'fails', `Rows of one ${groups.column} are on both sides`, {
    measured: `${count(groups.crossing)} of ${count(groups.groups)} split across parts`,
    expected: followsTime
      ? 'none split across parts, unless later rows of the same groups are to be predicted'
      : 'none split across parts: rows of one group resemble one another',
    examples: groups.examples.map((text) => ({ line: null, column: null, text })),
  });

/** Rows with the same features in two parts: a model that has seen one has seen the other. */
const twinCheck = ({ crossing }: { readonly crossing: number }): Check =>
  crossing === 0
    ? check('twins', 'holds', 'No row has the same features as one in another part')
    : check(
        'twins',
        'unsure',
        `${counted(crossing, 'row')} with the same features as a row in another part`,
        {
          expected: 'none',
        },
      );

/** A feature that differs by more than common practice allows and more than redraws of the plan do. */
const driftCheck = (drift: Drift): Check =>
  check('drift', 'unsure', `${drift.column} differs between training and held-out rows`, {
    measured: `${drift.measure} ${drift.value.toFixed(2)}`,
    expected: `below ${LARGE_DRIFT} (common practice), or ${drift.usual.toFixed(2)}, which redraws of the plan hardly exceed`,
  });

/** The largest of the differences that are large. */
const driftChecks = (features: readonly Drift[]): Check[] =>
  features
    .filter((drift) => drift.value >= LARGE_DRIFT && drift.value > drift.usual)
    .slice(0, MOST_DRIFTS)
    .map(driftCheck);

/** Every check that the quality of a split allows. A class target makes the shares a matter of `stratified`. */
export function qualityChecks(quality: SplitQuality, target: string | null, isStratified: boolean): Check[] {
  const { parts, groups, twins, time, apart } = quality;
  const labels = parts[0]?.classes.map((c) => c.label) ?? [];
  const checks: Check[] = [];
  if (target !== null && labels.length > 0) {
    const shares = shareCheck(parts, labels, target);
    checks.push(isStratified && shares.outcome === 'unsure' ? { ...shares, outcome: 'fails' } : shares);
  }
  if (groups) {
    checks.push(
      groups.crossing > 0
        ? crossingCheck(groups, time !== null && time.overlapping === 0)
        : check(
            'groups',
            'holds',
            `${counted(groups.groups, 'value')} of ${groups.column}, none split across parts`,
          ),
    );
  }
  if (time) {
    const holds = time.overlapping === 0;
    const message = holds
      ? `All rows of earlier parts lie before the last part in ${time.column}`
      : `${counted(time.overlapping, 'row')} of earlier parts ${time.overlapping === 1 ? 'does' : 'do'} not lie before the last part in ${time.column}`;
    checks.push(
      check('time', holds ? 'holds' : 'fails', message, {
        measured: `${count(time.overlapping)} of ${count(time.of)}`,
        expected: 'none: what is predicted lies later than what is trained on',
      }),
    );
  }
  checks.push(twinCheck(twins), ...contradictionCheck(twins.contradicting), ...driftChecks(quality.features));
  if (apart) checks.push(apartCheck(apart));
  return checks;
}

const contradictionCheck = (rows: number): Check[] =>
  rows === 0
    ? []
    : [
        check(
          'contradictions',
          'unsure',
          `${counted(rows, 'row')} with the features of another and a different label`,
          {
            expected: 'none: no model can get both right',
          },
        ),
      ];

/** Common practice: an area within 0.05 of chance shows nothing; a plan's own redraws say what is usual for it. */
function apartCheck({ area, redrawn }: NonNullable<SplitQuality['apart']>): Check {
  const usual = redrawn ? redrawn.high : 0.55;
  const holds = area <= Math.max(0.55, usual);
  const measured = `area ${area.toFixed(3)}`;
  return check(
    'apart',
    holds ? 'holds' : 'unsure',
    holds
      ? 'A classifier does not separate the parts better than is usual'
      : 'A classifier separates the parts better than is usual',
    {
      measured,
      expected: redrawn
        ? `${redrawn.draws} splits of the same plan: ${redrawn.low.toFixed(3)} to ${redrawn.high.toFixed(3)}`
        : 'at most 0.55 (common practice)',
    },
  );
}
