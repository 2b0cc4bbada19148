import { figureOf, type Judged } from '../../metrics/judged.js';
import type { Figure, Metric } from '../../metrics/metric.js';
import { METRICS } from '../../metrics/registry.js';
import type { Random } from '../../foundation/random/random.js';
import type { ColumnInfo, Parameters, SeveralParameter, ValuesOf } from '../../data/sentence/parameter.js';
import type { SentenceKind } from '../../data/sentence/sentence.js';
import type { Roles } from '../../data/table/roles.js';
import type { Table } from '../../data/table/table.js';
import { mistakesIn } from '../slips/values/registry.js';
import type { Workings } from '../slips/values/value-slip.js';

interface AskedHead {
  /** As a column of a file of answers has it; once in a question. */
  readonly key: string;
  readonly name: string;
  /** By which of several usual definitions it is computed, as the student reads it; null where there is but one. */
  readonly convention: string | null;
}

/** A number that a question asks for, and its key. */
export interface AskedNumber extends AskedHead {
  readonly figure: Figure;
  /** Smallest and largest value that is accepted, where the figure differs legitimately from work to work. */
  readonly between?: readonly [number, number];
  /** What known mistakes would give, by the slip; left out where none is known. */
  readonly mistakes?: Readonly<Record<string, readonly number[]>>;
}

/** Names that a question asks for, and the right ones among them. */
export interface AskedNames extends AskedHead {
  /** What can be chosen, in an order that says nothing. */
  readonly choices: readonly string[];
  readonly right: readonly string[];
  /** Whether any number of names is chosen, none too; else one. */
  readonly several: boolean;
}

/** Something that a question asks for, and its key. */
export type Asked = AskedNumber | AskedNames;

export const asksNames = (asked: Asked): asked is AskedNames => 'right' in asked;

/** A number that is asked for and has no value, and why. */
export function lostFigure(asked: readonly Asked[]): string | null {
  for (const one of asked)
    if (!asksNames(one) && one.figure.value === null) return `${one.name}: ${one.figure.reason}`;
  return null;
}

/** What one student is given, and what is asked of it. */
export interface GeneratedItem {
  /** What replaces `{name}` in the question's text. */
  readonly given: Readonly<Record<string, string>>;
  /** Shown under the text; null for none. */
  readonly table: {
    readonly header: readonly string[];
    readonly rows: readonly (readonly string[])[];
  } | null;
  readonly asked: readonly Asked[];
}

/** The rows that students have with their targets, in the order of their files, with the columns that they get. */
export interface GeneratorMaterial {
  /** The training rows. */
  readonly table: Table;
  /** The validation rows; null where there are none. */
  readonly validation: Table | null;
  /** Both, the training rows first. */
  readonly all: Table;
  readonly roles: Roles;
}

/**
 * Something to be computed: drawn for each student, or, where it is about the data, the same for all. Keys follow from
 * what is drawn, rounded as it is shown; they are never typed in.
 */
export type Generator<P extends Parameters = Parameters> = SentenceKind<P> & {
  /** The text that a question begins with; its `{names}` are those of `given`. */
  readonly text: string;
} & (
    | {
        readonly from: 'chance';
        draw(values: ValuesOf<P>, random: Random): GeneratedItem;
      }
    | {
        readonly from: 'data';
        /** Of the rows themselves, of models that are fitted to them, or typed by the instructor. */
        readonly of: 'data' | 'models' | 'elsewhere';
        /**
         * Makes sure of what the types of its parameters do not say.
         *
         * @throws SieveError with the key of a parameter as its field
         */
        check?(values: ValuesOf<P>, columns: readonly ColumnInfo[], roles: Roles): void;
        /** @throws SieveError where the data have no such figure */
        compute(values: ValuesOf<P>, material: GeneratorMaterial): GeneratedItem;
      }
  );

export const generator = <const P extends Parameters>(kind: Generator<P>): Generator => kind;

/** The parameter of which figures are asked. */
export const figures = <const N extends readonly string[]>(names: N, start: readonly N[number][]) =>
  ({ type: 'several', label: 'figures', choices: names, start }) as const satisfies SeveralParameter;

/** Where careful people compute different figures under one name: the definition that the key follows. */
const CONVENTIONS: Readonly<Record<string, string>> = {
  'standard deviation': 'with n − 1',
  'standard error': 'standard deviation with k − 1, divided by √k',
  'lower quartile': 'linear interpolation of the sorted values, type 7',
  'upper quartile': 'linear interpolation of the sorted values, type 7',
  'interquartile range': 'quartiles by linear interpolation, type 7',
  skewness: 'bias-corrected, G1',
  'mean error': 'prediction less truth',
  'mean absolute percentage error': 'as a fraction: 0.1 for 10 %',
  'Durbin–Watson statistic': 'of truth less prediction, in the order of the rows',
  'McNemar p': 'exact, two-sided',
  'entropy of the node': 'in bits',
  'information gain': 'in bits',
  'gain ratio': 'gain in bits over the entropy of the split',
  'log loss': 'natural logarithm, mean over the rows',
  'Brier score': 'of “yes” alone, from 0 to 1',
  'average precision': 'precision times step of recall, summed, without interpolation',
  'area under the ROC curve': 'ties counted half',
  'prior of survival': 'share of the rows, not corrected',
  'posterior of survival': 'priors not corrected',
  'best depth': 'highest mean accuracy',
  'training errors at the best depth': '1 − training accuracy',
  'accuracy, column chosen inside each fold':
    'over all rows, each predicted by the column that the rows of the other folds choose',
  F: 'of all features together',
};

/** The figures that are asked of those that there are, in the order in which they are named, with what mistakes would give. */
export function askedOf(
  all: Readonly<Record<string, Figure | number>>,
  names: readonly string[],
  { suffix = '', workings = {} }: { suffix?: string; workings?: Omit<Workings, 'figures'> } = {},
): AskedNumber[] {
  const known = Object.entries(all).map(([name, figure]) => [
    name,
    typeof figure === 'number' ? figure : figure.value,
  ]);
  const figures = Object.fromEntries(known.filter(([, value]) => value !== null)) as Workings['figures'];
  return Object.entries(all)
    .filter(([name]) => names.includes(name))
    .map(([name, figure]) => {
      const mistakes = mistakesIn(name, { figures, ...workings });
      return {
        key: keyOf(name),
        name: `${name}${suffix}`,
        convention: CONVENTIONS[name] ?? null,
        figure: typeof figure === 'number' ? { value: figure } : figure,
        ...(Object.keys(mistakes).length === 0 ? {} : { mistakes }),
      };
    });
}

/** "area under the curve" as `area_under_the_curve`. */
export const keyOf = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9²]+/g, '_')
    .replaceAll('²', '2')
    .replace(/^_|_$/g, '');

/** Metrics as figures by their names. */
export const metricFigures = (metrics: readonly Metric[], judged: Judged): Record<string, Figure> =>
  Object.fromEntries(metrics.map((metric) => [metric.name, figureOf(metric, judged)]));

/** The metrics of some keys, in the order of the registry. */
export const metricsOf = (...keys: string[]): Metric[] => METRICS.filter(({ key }) => keys.includes(key));

/** A whole number from `low` to `high`. */
export const whole = (random: Random, low: number, high: number): number =>
  low + random.below(high - low + 1);

/** A number from `low` to `high` with so many decimals. */
export const decimal = (random: Random, low: number, high: number, decimals: number): number =>
  whole(random, Math.round(low * 10 ** decimals), Math.round(high * 10 ** decimals)) / 10 ** decimals;

/** A number about a mean, by the sum of twelve uniform numbers, rounded to so many decimals. */
export function about(random: Random, mean: number, sd: number, decimals: number): number {
  let sum = -6;
  for (let i = 0; i < 12; i++) sum += random.unit();
  return Number((mean + sd * sum).toFixed(decimals));
}
