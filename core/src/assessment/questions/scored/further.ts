import { SieveError } from '../../../foundation/errors.js';
import type { Parameters } from '../../../data/sentence/parameter.js';
import {
  checkPlanned,
  kindIn,
  newPlan,
  type Plan,
  type SentenceKind,
} from '../../../data/sentence/sentence.js';
import { truthOf } from '../../../data/formula/formula.js';
import { labelsOf } from '../../../data/table/labels.js';
import { columnNamed, type Table } from '../../../data/table/table.js';
import type { Metric } from '../../../metrics/metric.js';
import { metricNamed } from '../../../metrics/registry.js';
import { checkScheme, type MarkScheme } from '../../marking/scheme.js';
import type { Body } from '../contract/body.js';
import { givenColumns, type Subject } from '../contract/kind.js';

/** A further figure of the same predictions, on the final rows, with marks of its own. */
export interface FurtherFigure {
  readonly metric: string;
  /** Of which rows, as one of `FURTHER_KINDS`. */
  readonly on: Plan;
  readonly scheme: MarkScheme;
}

/** The rows of a table in the groups that a figure is of: for each row the code of its label, or −1 for none. */
export interface RowGroups {
  readonly labels: readonly string[];
  readonly codes: Int32Array;
}

/** A further figure as students know of it. */
export interface FurtherSaid {
  readonly title: string;
  readonly marks: number;
}

/** Of which rows a further figure is. */
export interface FurtherKind<P extends Parameters = Parameters> extends SentenceKind<P> {
  /** The figure of one group of rows, the worst of several, or the largest gap between two of them. */
  readonly how: 'rows' | 'worst' | 'gap';
  /** A metric on these rows in words: "recall where region is north". */
  words(metric: string, values: Plan['values']): string;
  /** @throws SieveError `no-such-column`, `formula` */
  groups(table: Table, values: Plan['values']): RowGroups;
}

/** Fewest final rows of a group whose figure students may see, once the exercise is returned. */
export const FEWEST_ROWS = 10;
/** Figures beside the first one, at most. */
export const MOST_FURTHER = 6;

const text = (values: Plan['values'], key: string): string => String(values[key] ?? '').trim();
const column = { type: 'column', label: 'the column of the subgroups' } as const;
const byColumn = (table: Table, values: Plan['values']): RowGroups =>
  labelsOf(columnNamed(table, text(values, 'column')));
const chosen = (label: string, holds: (row: number) => boolean, rows: number): RowGroups => ({
  labels: [label],
  codes: Int32Array.from({ length: rows }, (_, row) => (holds(row) ? 0 : -1)),
});

const all: FurtherKind = {
  key: 'all',
  title: 'all final rows',
  about: 'Another metric on the same rows as the first.',
  parameters: {},
  how: 'rows',
  sentence: () => 'none is left out.',
  words: (metric) => metric,
  groups: (table) => chosen('all', () => true, table.rowCount),
};

const value: FurtherKind = {
  key: 'value',
  title: 'a subgroup',
  about: 'The final rows with one value of a column.',
  parameters: { column, value: { type: 'text', label: 'the value', start: '' } },
  how: 'rows',
  sentence: () => 'the final rows whose {column} is {value}.',
  words: (metric, values) => `${metric} where ${text(values, 'column')} is ${text(values, 'value')}`,
  groups(table, values) {
    const { labels, codes } = byColumn(table, values);
    // Values of a table may begin or end with blanks.
    const wanted = labels.findIndex((label) => label.trim() === text(values, 'value'));
    if (wanted < 0)
      throw new SieveError(
        'plan-value',
        `No held-out row has ${text(values, 'column')} “${text(values, 'value')}”; there are ${labels.slice(0, 10).join(', ')}${labels.length > 10 ? ', …' : ''}.`,
        { field: 'value' },
      );
    return chosen(text(values, 'value'), (row) => codes[row] === wanted, table.rowCount);
  },
};

const where: FurtherKind = {
  key: 'where',
  title: 'some rows',
  about: 'The final rows for which a condition of columns holds.',
  parameters: { condition: { type: 'formula', label: 'the condition', start: '' } },
  how: 'rows',
  sentence: () => 'the final rows where {condition}.',
  words: (metric, values) => `${metric} where ${text(values, 'condition')}`,
  groups(table, values) {
    const holds = truthOf(table, text(values, 'condition'), 'condition');
    return chosen(text(values, 'condition'), (row) => holds[row] === 1, table.rowCount);
  },
};

const worst: FurtherKind = {
  key: 'worst',
  title: 'the worst subgroup',
  about: 'The worst of the figures of a column’s values; those with few final rows are left out.',
  parameters: { column },
  how: 'worst',
  sentence: () => 'the value of {column} with the worst figure.',
  words: (metric, values) => `${metric} in the worst subgroup by ${text(values, 'column')}`,
  groups: byColumn,
};

const gap: FurtherKind = {
  key: 'gap',
  title: 'the gap between subgroups',
  about:
    'The largest difference between the figures of two values of a column; those with few final rows are left out.',
  parameters: { column },
  how: 'gap',
  sentence: () => 'the largest difference between two values of {column}.',
  words: (metric, values) => `largest gap of ${metric} between subgroups by ${text(values, 'column')}`,
  groups: byColumn,
};

/** Every choice of rows, in the order in which a menu has them. */
export const FURTHER_KINDS: readonly FurtherKind[] = [all, value, where, worst, gap];

export const furtherKindOf = (plan: Pick<Plan, 'kind'>): FurtherKind =>
  kindIn(FURTHER_KINDS, plan.kind, 'choice of rows');

/** A further figure in words. */
export const furtherTitle = ({ metric, on }: Pick<FurtherFigure, 'metric' | 'on'>): string =>
  furtherKindOf(on).words(metricNamed(metric).name, on.values);

/** What the marks of a further figure depend on: a gap is the better the smaller it is. */
export function furtherMetric({
  metric,
  on,
}: Pick<FurtherFigure, 'metric' | 'on'>): Pick<Metric, 'better' | 'name' | 'range'> {
  const own = metricNamed(metric);
  if (furtherKindOf(on).how !== 'gap') return own;
  const [low, high] = own.range;
  return {
    better: 'lower',
    name: `a gap of ${own.name}`,
    range: [0, low === null || high === null ? null : high - low],
  };
}

/** A gap to begin with: nothing at the width of the metric's own line, most at a third of it, all at a tenth. */
function gapScheme({ nothing, all: full, ...marks }: MarkScheme): MarkScheme {
  const width = Math.abs(full - nothing);
  const rounded = (value: number) => Number(value.toPrecision(2));
  return { ...marks, nothing: rounded(width), most: rounded(width / 3), all: rounded(width / 10) };
}

/**
 * A further figure as it is begun.
 *
 * @param scheme a line for the metric itself
 */
export const newFurther = (
  kind: FurtherKind,
  subject: Subject,
  metric: string,
  scheme: MarkScheme,
): FurtherFigure => ({
  metric,
  on: newPlan(kind, askable(subject)),
  scheme: kind.how === 'gap' ? gapScheme(scheme) : scheme,
});

/** The columns that subgroups may be of: those that students get, but for the target and the name of a row. */
export const askable = (subject: Subject) =>
  givenColumns(subject).filter(
    ({ name }) => name !== subject.roles.target && name !== subject.roles.identifier,
  );

/** The further figures of a body; none where there are none. @throws SieveError `question` */
export function furtherFrom(body: Body): { readonly further?: readonly FurtherFigure[] } {
  const further = body.list('further').map((one) => ({
    metric: one.text('metric'),
    on: one.plan('on'),
    scheme: one.scheme('scheme'),
  }));
  return further.length === 0 ? {} : { further };
}

/** @throws SieveError `metric`, `marks`, `plan-value` with `further.` and the place before the field */
export function checkFurther(further: readonly FurtherFigure[] | undefined, subject: Subject): void {
  if ((further?.length ?? 0) > MOST_FURTHER)
    throw new SieveError('question', `At most ${MOST_FURTHER} further figures can be marked.`, {
      field: 'further',
    });
  further?.forEach((one, i) => {
    within(i, () => {
      const metric = metricNamed(one.metric);
      if (!metric.tasks.includes(subject.roles.task))
        throw new SieveError('metric', `${metric.name} does not judge this task.`, { field: 'metric' });
      checkPlanned(furtherKindOf(one.on), one.on, askable(subject));
      checkScheme(one.scheme, furtherMetric(one));
      if (one.scheme.doubt === true)
        throw new SieveError('marks', 'The benefit of the doubt is for the first figure alone.', {
          field: 'doubt',
        });
    });
  });
}

/** Does something about the figure at a place, and says so where it fails. */
export function within<T>(place: number, act: () => T): T {
  try {
    return act();
  } catch (error) {
    if (!(error instanceof SieveError)) throw error;
    const { field } = error.place;
    throw new SieveError(error.code, error.message, {
      ...error.place,
      field: `further.${place}${field === undefined ? '' : `.${field}`}`,
    });
  }
}
