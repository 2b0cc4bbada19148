import { check, type Check } from '../check/check.js';
import type { AnswerKey } from '../check/judge.js';
import { areaOf, rankingOf } from '../metrics/ranking.js';
import { at, counted } from '../numbers.js';
import { labelsOf } from '../table/labels.js';
import type { Roles } from '../table/roles.js';
import { cellText, isCoded, type Column, type Table } from '../table/table.js';

/** What a pack must not tell: the target itself, an order or an identifier that follows it. */
export function auditPack(heldout: Table, roles: Roles, key: AnswerKey): Check[] {
  const names = heldout.columns.map((column) => column.name);
  const kept = [roles.target, ...roles.withheld].filter((name) => names.includes(name));
  const checks = [
    kept.length === 0
      ? check('no-target', 'holds', 'Neither the target nor a withheld column is among the held-out features')
      : check('no-target', 'fails', `${kept.join(', ')} would be handed out`),
  ];
  const copies = heldout.columns.slice(1).filter((column) => copiesTarget(column, key));
  checks.push(
    copies.length === 0
      ? check('no-copy', 'holds', 'No feature gives the target of every row')
      : check(
          'no-copy',
          'fails',
          `${copies.map((c) => c.name).join(', ')} gives the target of every held-out row; withhold it at Look`,
        ),
  );
  const position = Float64Array.from({ length: heldout.rowCount }, (_, i) => i);
  checks.push(orderCheck('order', 'The order of the held-out rows', position, key));
  const ids = Float64Array.from(position, (_, i) => Number(cellText(at(heldout.columns, 0), i)));
  const numeric = ids.every((id) => !Number.isNaN(id));
  checks.push(
    orderCheck('identifiers', 'The order of the identifiers', numeric ? ids : textRanks(heldout), key),
  );
  return checks;
}

/** Rows ahead that are looked at for answers. */
const LAGS = 14;
/** Share of the rows whose answer a later row's feature must be before it is told: chance gives next to none. */
const TOLD = 0.2;
/** Fewer distinct answers than this may be met by chance. */
const FEWEST_ANSWERS = 20;

/** All rows that students get, as they follow one another. */
export interface SeriesRows {
  /** Rows of the table, in no particular order. */
  readonly given: Int32Array;
  /** By row of the table: 1 for a held-out one. */
  readonly isHeldOut: Uint8Array;
  readonly target: Float64Array;
  readonly times: Float64Array;
  /** The series of each row; all of them one where there are no groups. */
  readonly groups: Int32Array;
  readonly features: readonly Column[];
}

/**
 * Whether a feature of a later row is the answer of an earlier, held-out one, as in a series whose target is what is
 * measured next: then the features tell most of the answers, in whatever order they are handed out.
 */
export function auditSeries({ given, isHeldOut, target, times, groups, features }: SeriesRows): Check[] {
  const order = given.slice().sort((a, b) => at(groups, a) - at(groups, b) || at(times, a) - at(times, b));
  const heldOut = order.filter((row) => isHeldOut[row] === 1);
  const answers = new Set(Array.from(heldOut, (row) => at(target, row)));
  if (answers.size < FEWEST_ANSWERS) return [];
  for (const column of features) {
    if (isCoded(column)) continue;
    for (let lag = 1; lag <= LAGS; lag++) {
      let [met, of] = [0, 0];
      for (let i = 0; i + lag < order.length; i++) {
        const [row, later] = [at(order, i), at(order, i + lag)];
        if (isHeldOut[row] !== 1 || groups[row] !== groups[later]) continue;
        of++;
        const answer = at(target, row);
        if (Math.abs(answer - at(column.values, later)) <= 1e-9 * Math.max(1, Math.abs(answer))) met++;
      }
      if (of > FEWEST_ANSWERS && met > TOLD * of)
        return [
          check(
            'series',
            'fails',
            `${column.name} of a row ${counted(lag, 'row')} later is the target of ${Math.round((100 * met) / of)} % of the held-out rows; withhold it at Look`,
          ),
        ];
    }
  }
  return [check('series', 'holds', 'No later row tells the target of an earlier one')];
}

/** Whether each value of a feature goes with one answer only, in rows enough to say so. */
function copiesTarget(column: Column, key: AnswerKey): boolean {
  const answers = key.classes ?? key.values;
  if (!answers) return false;
  const cells: ArrayLike<number> = isCoded(column) ? column.codes : column.values;
  const answerOf = new Map<number, number>();
  for (let row = 0; row < cells.length; row++) {
    const answer = answerOf.get(at(cells, row));
    if (answer === undefined) answerOf.set(at(cells, row), at(answers, row));
    else if (answer !== at(answers, row)) return false;
  }
  return answerOf.size * 2 <= cells.length && new Set(answerOf.values()).size > 1;
}

function textRanks(heldout: Table): Float64Array {
  const { labels, codes } = labelsOf(at(heldout.columns, 0));
  return Float64Array.from(codes, (code) => (labels.length > 0 ? code : 0));
}

/** Four standard errors of the area under no relation (Hanley and McNeil): chance alone exceeds it once in 16,000. */
const TELLING_STEPS = 4;

/** Whether an order of rows tells the target: the area of each class, or of above-median values, along the order. */
function orderCheck(id: string, what: string, order: Float64Array, key: AnswerKey): Check {
  const { classes, values } = key;
  const sorted = values?.slice().sort();
  const middle = sorted ? at(sorted, Math.floor(sorted.length / 2)) : 0;
  const codes = classes ?? Int32Array.from(values ?? order, (value) => (value >= middle ? 0 : 1));
  let worst = { steps: 0, area: 0.5 };
  for (let code = 0; code < Math.max(1, key.labels.length); code++) {
    const area = areaOf(rankingOf(order, codes, code, null));
    const n = codes.filter((other) => other === code).length;
    const se = Math.sqrt((order.length + 1) / (12 * n * (order.length - n)));
    const steps = Math.abs(area - 0.5) / se;
    if (Number.isFinite(steps) && steps > worst.steps) worst = { steps, area };
  }
  const measured = `area ${Math.max(worst.area, 1 - worst.area).toFixed(2)} in ${counted(order.length, 'row')}`;
  return worst.steps < TELLING_STEPS
    ? check(id, 'holds', `${what} says nothing`, { measured })
    : check(id, 'unsure', `${what} goes with the target`, { measured, expected: 'about 0.50' });
}
