import { judgeAgainst, rowsFor, type AnswerKey, type FurtherKey } from '../../files/judge.js';
import type { Predictions } from '../../files/reader.js';
import { SieveError } from '../../../foundation/errors.js';
import { at, counted, indices, shortNumber } from '../../../foundation/numbers.js';
import { selectRows } from '../../../data/table/table.js';
import { figureOf } from '../../../metrics/judged.js';
import { metricNamed } from '../../../metrics/registry.js';
import { floorOf } from '../../marking/floor.js';
import type { Material } from '../../material/material.js';
import { askable, FEWEST_ROWS, furtherKindOf, furtherTitle, within, type FurtherFigure } from './further.js';
import { furtherFigure } from './further-marking.js';

/** The keys of further figures, and how they came about as sentences for staff. */
export interface FurtherKeys {
  readonly keys: readonly FurtherKey[];
  readonly about: readonly string[];
}

/**
 * The keys of the further figures of a question: which final rows each is of, and from where work is shown.
 *
 * @param key answers to the held-out rows
 * @param heldOut the held-out rows in the order of the key, as rows of the material's table
 * @throws SieveError `few-rows` where a figure would be of so few rows, or differ from another by so few, that it shows
 * them
 */
export function furtherKeys(
  further: readonly FurtherFigure[],
  material: Material,
  key: AnswerKey,
  heldOut: Int32Array,
): FurtherKeys {
  const names = askable({ columns: material.table.columns, roles: material.roles }).map(({ name }) => name);
  const features = selectRows(material.table, heldOut, names);
  const final = rowsFor(key, 'final');
  const found = further.map((one, place) =>
    within(place, () => {
      const kind = furtherKindOf(one.on);
      const { labels, codes } = kind.groups(features, one.on.values);
      const rowsOf = labels.map((_, code) => final.filter((row) => codes[row] === code).length);
      const left = indices(labels.length).filter((code) => at(rowsOf, code) >= FEWEST_ROWS);
      const needed = kind.how === 'rows' ? 1 : 2;
      if (left.length < needed)
        throw new SieveError(
          'few-rows',
          needed === 1
            ? `${furtherTitle(one)} is of ${counted(at(rowsOf, 0), 'final row')}: at least ${FEWEST_ROWS} are needed.`
            : `Fewer than two subgroups have ${FEWEST_ROWS} final rows.`,
          { field: 'on' },
        );
      const place = new Map([...left].map((code, i) => [code, i]));
      const own: FurtherKey = {
        title: furtherTitle(one),
        metric: one.metric,
        how: kind.how,
        labels: [...left].map((code) => at(labels, code)),
        codes: codes.map((code) => place.get(code) ?? -1),
        ...{ floor: null, beside: true },
      };
      refuseUndefined(own, key, final);
      const floor = floorFor(one, own, key, final);
      return { own: { ...own, floor, beside: floor === null }, leftOut: labels.length - left.length };
    }),
  );
  refuseFewBetween(
    found.map(({ own }) => own),
    final,
  );
  return {
    keys: found.map(({ own }) => own),
    about: found.map(({ own, leftOut }, i) => aboutOf(own, leftOut, at(further, i), final)),
  };
}

/**
 * A figure that is undefined for whatever is predicted, such as recall of rows none of which is positive.
 *
 * @throws SieveError `no-figure`
 */
function refuseUndefined(own: FurtherKey, key: AnswerKey, final: Int32Array): void {
  const metric = metricNamed(own.metric);
  for (const [code, label] of own.labels.entries()) {
    const rows = final.filter((row) => own.codes[row] === code);
    const figure = figureOf(metric, judgeAgainst(key, truthOf(key), rows));
    if (figure.value === null)
      throw new SieveError(
        'no-figure',
        `${own.title} is undefined${own.how === 'rows' ? '' : ` for ${label}`}, whatever is predicted: ${figure.reason}.`,
        { field: 'on' },
      );
  }
}

/** What is true, as predictions. */
function truthOf({ classes, values, labels }: AnswerKey): Predictions {
  if (values) return { kind: 'numbers', predicted: values };
  const predicted = classes ?? new Int32Array();
  const probabilities = labels.map((_, label) =>
    Float64Array.from(predicted, (code) => (code === label ? 1 : 0)),
  );
  return { kind: 'labels', predicted, probabilities, derived: false };
}

/**
 * The score up to which no work is shown; null where guesses reach the point for most, as they do of a gap, which stays
 * small where all are treated alike, and of recall, which is 1 where everything is called positive.
 */
function floorFor(
  { scheme, metric: name }: FurtherFigure,
  own: FurtherKey,
  key: AnswerKey,
  final: Int32Array,
): number | null {
  if (own.how === 'gap') return null;
  const metric = metricNamed(name);
  const rows = own.how === 'rows' ? final.filter((row) => own.codes[row] === 0) : final;
  const { random } = floorOf(
    metric,
    key,
    rows,
    (predictions) => furtherFigure(own, key, predictions, final).score,
  );
  const way = metric.better === 'higher' ? 1 : -1;
  return random !== null && way * (random - scheme.most) >= 0 ? null : random;
}

/** Rows that a figure is of, as the place of the figure and 1 for each of them. */
interface RowSet {
  readonly place: number;
  readonly has: (row: number) => boolean;
}

/**
 * Figures of two sets of rows that differ by a few would show these few. Rows that are in the same of the sets whose figures
 * are known must be so many, or none: the sets of rows, and both of two subgroups, whose figures follow from the worst and
 * the gap. Of more subgroups one figure is known and not which, so that it may not lie within another set that is larger by
 * a few.
 *
 * @throws SieveError `few-rows`
 */
function refuseFewBetween(keys: readonly FurtherKey[], final: Int32Array): void {
  const isKnown = ({ how, labels }: FurtherKey) => how === 'rows' || labels.length === 2;
  const setsOf = (of: (key: FurtherKey) => boolean): RowSet[] =>
    keys.flatMap((key, place) =>
      of(key) ? key.labels.map((_, code) => ({ place, has: (row: number) => key.codes[row] === code })) : [],
    );
  const known = setsOf(isKnown);
  const alike = new Map<string, number>();
  for (const row of final) {
    const member = known.map(({ has }) => (has(row) ? '1' : '0')).join('');
    alike.set(member, (alike.get(member) ?? 0) + 1);
  }
  for (const [member, rows] of alike)
    if (alike.size > 1 && rows < FEWEST_ROWS)
      refuseFew(rows, known.findLast((_, i) => member[i] === '1') ?? known.at(-1));
  const others = setsOf((key) => !isKnown(key));
  for (const one of others)
    for (const other of [...known, ...others]) {
      if (other.place === one.place) continue;
      for (const [inner, outer] of [
        [one, other],
        [other, one],
      ] as const) {
        const between = final.filter((row) => outer.has(row) && !inner.has(row)).length;
        const isWithin = !final.some((row) => inner.has(row) && !outer.has(row));
        if (isWithin && between > 0 && between < FEWEST_ROWS) refuseFew(between, one);
      }
    }
}

function refuseFew(rows: number, set: RowSet | undefined): never {
  throw new SieveError(
    'few-rows',
    `${counted(rows, 'final row')} would be the difference between two of the figures, which shows them: at least ${FEWEST_ROWS} are needed, or none.`,
    { field: `further.${set?.place ?? 0}.on` },
  );
}

function aboutOf(own: FurtherKey, leftOut: number, { scheme }: FurtherFigure, final: Int32Array): string {
  const rows = final.filter((row) => at(own.codes, row) >= 0).length;
  const groups =
    own.how === 'rows'
      ? ''
      : ` in ${counted(own.labels.length, 'subgroup')}${leftOut > 0 ? `, ${counted(leftOut, 'other')} left out for having fewer than ${FEWEST_ROWS}` : ''}`;
  const floor =
    own.floor === null
      ? 'guesses reach it, so it earns no larger share of its marks than the first figure'
      : `no marks up to ${shortNumber(own.floor)}, which the best constant or 1 of 200 random files reaches`;
  return `${own.title}, ${scheme.marks} marks: ${counted(rows, 'final row')}${groups}; ${floor}`;
}
