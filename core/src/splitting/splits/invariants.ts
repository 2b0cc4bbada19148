import type { SplitInvariant, SplitRequest } from './splitter.js';
import { at } from '../../foundation/numbers.js';
import { labelsOf } from '../../data/table/labels.js';
import { columnNamed } from '../../data/table/table.js';
import { apportion } from '../algorithms/apportion.js';
import { strataOf } from '../algorithms/strata.js';
import { timelineOf } from '../algorithms/time.js';
import { weightsOf } from '../parts/parts.js';

const countsOf = ({ rows, parts, plan }: SplitRequest, among: (row: number) => boolean = () => true) => {
  const counts = plan.parts.map(() => 0);
  for (const row of rows)
    if (among(row) && at(parts, row) >= 0) counts[at(parts, row)] = at(counts, at(parts, row)) + 1;
  return counts;
};

export const everyRowIsAssigned: SplitInvariant = {
  text: 'every row is in a part',
  holds: ({ rows, parts }) => rows.every((row) => at(parts, row) >= 0),
};

export const sizesAreApportioned: SplitInvariant = {
  text: 'every part has its apportioned size',
  holds: (request) => {
    const { rows, plan } = request;
    const sizes = apportion(rows.length, weightsOf(plan.parts, rows.length));
    return countsOf(request).every((n, part) => n === at(sizes, part));
  },
};

export const strataAreShared: SplitInvariant = {
  text: 'of every value each part has its share, to within one row',
  holds: (request) => {
    const { table, plan, rows } = request;
    const { labels, codes } = strataOf(columnNamed(table, plan.stratify ?? ''));
    const weights = weightsOf(plan.parts, rows.length);
    const total = weights.reduce((a, b) => a + b, 0);
    return labels.every((_, code) => {
      const counts = countsOf(request, (row) => at(codes, row) === code);
      const n = counts.reduce((a, b) => a + b, 0);
      return counts.every((found, part) => Math.abs(found - (n * at(weights, part)) / total) < 1);
    });
  },
};

const staysTogether = (setting: 'group' | 'identifier', text: string): SplitInvariant => ({
  text,
  holds: ({ table, plan, rows, parts }) => {
    const { codes } = labelsOf(columnNamed(table, plan[setting] ?? ''));
    const partOf = new Map<number, number>();
    return rows.every((row) => {
      const known = partOf.get(at(codes, row)) ?? at(parts, row);
      partOf.set(at(codes, row), known);
      return known === at(parts, row);
    });
  },
});
export const groupsStayWhole = staysTogether('group', 'the rows of one group are in one part');
export const identifiersStayWhole = staysTogether('identifier', 'rows of one identifier are in one part');

export const partsFollowTime: SplitInvariant = {
  text: 'no row of a part is earlier than a row of the part before it',
  holds: ({ table, plan, rows, parts }) => {
    const { values } = timelineOf(columnNamed(table, plan.time ?? ''), rows);
    const latest = plan.parts.map(() => -Infinity);
    const earliest = plan.parts.map(() => Infinity);
    for (const row of rows) {
      const part = at(parts, row);
      if (part < 0) continue;
      latest[part] = Math.max(at(latest, part), at(values, row));
      earliest[part] = Math.min(at(earliest, part), at(values, row));
    }
    return earliest.every((first, part) => latest.slice(0, part).every((last) => last < first));
  },
};

export const partsFollowRows: SplitInvariant = {
  text: 'the parts follow one another in the order of the rows',
  holds: ({ rows, parts }) => rows.every((row, i) => i === 0 || at(parts, at(rows, i - 1)) <= at(parts, row)),
};
