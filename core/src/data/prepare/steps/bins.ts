import { SieveError } from '../../../foundation/errors.js';
import { quantileOf, tallyOf } from '../../../foundation/statistics/tally.js';
import { numberOf } from '../../table/cell.js';
import { edgeTexts } from '../../../foundation/numbers.js';
import { codedColumn } from '../../table/recode.js';
import { columnNamed } from '../../table/table.js';
import { checkNew } from '../rows.js';
import { stepKind, withColumns } from '../step.js';

export const bins = stepKind({
  key: 'bins',
  title: 'Cut numbers into bins',
  about:
    'Makes categories of a column of numbers. A bin reaches from its lower bound to below its upper one; the last has both. Quantiles by linear interpolation (type 7); bounds that are the same become one. With given bounds, numbers outside them become missing. The bins take the place of the numbers, or come as a column with `_bin` at the end of its name.',
  parameters: {
    column: { type: 'column', label: 'the column of numbers', of: ['number'] },
    how: {
      type: 'choice',
      label: 'how',
      choices: [
        { value: 'width', text: 'of equal width' },
        { value: 'quantiles', text: 'with equally many rows' },
        { value: 'given', text: 'with the bounds' },
      ],
    },
    count: { type: 'number', label: 'how many bins', min: 2, max: 200, step: 1, start: 5 },
    bounds: { type: 'texts', label: 'the bounds', none: 'none' },
    place: {
      type: 'choice',
      label: 'whether the numbers stay',
      choices: [
        { value: 'instead', text: 'in the place of the numbers' },
        { value: 'beside', text: 'in a column of its own' },
      ],
      optional: true,
    },
  },
  sentence: ({ how }) =>
    how === 'given'
      ? 'Cut {column} into bins {how} {bounds}, {place}.'
      : 'Cut {column} into {count} bins {how}, {place}.',
  learns: ({ how }) => how !== 'given',
  apply: (table, { column: name, how, count, bounds, place }) => {
    const column = columnNamed(table, name);
    if (column.kind !== 'number') return { table };
    const edges = how === 'given' ? givenEdges(bounds) : learnedEdges(column.values, how, count, name);
    const last = edges.length - 1;
    const digits = edgeTexts(edges);
    const labels = edges
      .slice(0, -1)
      .map((_, i) => `${digits[i]} to ${i + 1 === last ? '' : 'below '}${digits[i + 1]}`);
    const codes = Int32Array.from(column.values, (value) => binOf(value, edges));
    const into = place === 'beside' ? `${name}_bin` : name;
    if (into !== name) checkNew(table, into, 'place');
    return { table: withColumns(table, [codedColumn(into, labels, codes)]) };
  },
});

/** The bin of a number among ascending edges, or −1. */
function binOf(value: number, edges: readonly number[]): number {
  const last = edges.length - 1;
  if (!(value >= (edges[0] ?? NaN)) || value > (edges[last] ?? NaN)) return -1;
  let low = 0;
  let high = last - 1;
  while (low < high) {
    const middle = (low + high + 1) >>> 1;
    if ((edges[middle] ?? NaN) <= value) low = middle;
    else high = middle - 1;
  }
  return low;
}

function learnedEdges(
  values: Float64Array,
  how: 'width' | 'quantiles',
  count: number,
  name: string,
): number[] {
  const tally = tallyOf(values);
  if (tally.values.length < 2)
    throw new SieveError('step', `${name} does not vary, so it cannot be cut into bins.`, {
      field: 'column',
    });
  const [low, high] = [quantileOf(tally, 0), quantileOf(tally, 1)];
  const edges = Array.from({ length: count + 1 }, (_, i) =>
    how === 'quantiles'
      ? quantileOf(tally, i / count)
      : i === count
        ? high
        : low + ((high - low) * i) / count,
  );
  return edges.filter((edge, i) => i === 0 || edge !== edges[i - 1]);
}

function givenEdges(bounds: readonly string[]): number[] {
  const edges = bounds.map((text) => {
    const value = numberOf(text.trim());
    if (Number.isNaN(value)) throw new SieveError('step', `“${text}” is not a number.`, { field: 'bounds' });
    return value;
  });
  if (edges.length < 2) throw new SieveError('step', 'Give at least two bounds.', { field: 'bounds' });
  if (edges.some((edge, i) => i > 0 && edge <= (edges[i - 1] ?? NaN)))
    throw new SieveError('step', 'Give the bounds in ascending order.', { field: 'bounds' });
  return edges;
}
