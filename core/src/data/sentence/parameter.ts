import { SieveError } from '../../foundation/errors.js';
import { KIND_WORDS, noSuchColumn, type Column, type ColumnKind } from '../table/table.js';

interface Common {
  /** What the control of the sentence is called by screen readers. */
  readonly label: string;
}

/** One or more columns; none means all of them, or what `none` says, where that is given. */
export interface ColumnsParameter extends Common {
  readonly type: 'columns';
  readonly of?: readonly ColumnKind[];
  readonly none?: string;
  /** Set where plans of earlier versions lack it; left out are then none. */
  readonly optional?: true;
}

/** A column; none may be chosen where `none` says what that means. */
export interface ColumnParameter extends Common {
  readonly type: 'column';
  readonly of?: readonly ColumnKind[];
  readonly none?: string;
}

export interface ChoiceParameter<V extends string = string> extends Common {
  readonly type: 'choice';
  readonly choices: readonly { readonly value: V; readonly text: string }[];
  /** Set where plans of earlier versions lack it; left out is then the first choice. */
  readonly optional?: true;
}

/** Some of a few given words. */
export interface SeveralParameter extends Common {
  readonly type: 'several';
  readonly choices: readonly string[];
  /** Those that are chosen when a sentence is begun; none where it is left out. */
  readonly start?: readonly string[];
}

export interface NumberParameter extends Common {
  readonly type: 'number';
  readonly min?: number;
  readonly max?: number;
  /** 1 for whole numbers. */
  readonly step?: number;
  readonly unit?: string;
  readonly start: number;
  /** Set where plans of earlier versions lack it. */
  readonly optional?: true;
}

/** A text; it may be left empty where `none` says what that means. `formula` is one of columns. */
export interface TextParameter extends Common {
  readonly type: 'text' | 'formula';
  readonly none?: string;
  readonly start: string;
}

/** A list of texts. */
export interface TextsParameter extends Common {
  readonly type: 'texts';
  readonly none?: string;
  /** Those that a sentence begins with; none where it is left out. */
  readonly start?: readonly string[];
  /** Set where a comma is part of a text and does not end it. */
  readonly hasCommas?: true;
}

/** Texts and what becomes of each. */
export interface PairsParameter extends Common {
  readonly type: 'pairs';
}

export type Parameter =
  | ColumnsParameter
  | ColumnParameter
  | ChoiceParameter
  | SeveralParameter
  | NumberParameter
  | TextParameter
  | TextsParameter
  | PairsParameter;

export type Parameters = Readonly<Record<string, Parameter>>;

/** What a parameter holds. */
type ValueOf<P extends Parameter> =
  P extends ChoiceParameter<infer V>
    ? P extends { readonly optional: true }
      ? V | undefined
      : V
    : P extends NumberParameter
      ? P extends { readonly optional: true }
        ? number | undefined
        : number
      : P extends ColumnParameter | TextParameter
        ? string
        : P extends PairsParameter
          ? readonly (readonly string[])[]
          : P extends { readonly optional: true }
            ? readonly string[] | undefined
            : readonly string[];

export type ValuesOf<P extends Parameters> = { readonly [K in keyof P]: ValueOf<P[K]> };

/** A value before it is known to fit its parameter. */
export type PlanValue = string | number | readonly string[] | readonly (readonly string[])[];

/** As much of a column as choosing one takes. */
export type ColumnInfo = Pick<Column, 'name' | 'kind'>;

/** What a parameter holds when a sentence is begun. */
export function startOf(parameter: Parameter, columns: readonly ColumnInfo[]): PlanValue {
  switch (parameter.type) {
    case 'columns':
    case 'pairs':
      return [];
    case 'several':
    case 'texts':
      return parameter.start ?? [];
    case 'column':
      return parameter.none === undefined
        ? (columns.find(({ kind }) => fitsKind(kind, parameter.of))?.name ?? '')
        : '';
    case 'choice':
      return parameter.choices[0]?.value ?? '';
    case 'number':
    case 'text':
    case 'formula':
      return parameter.start;
  }
}

/**
 * Makes sure that a value is what a parameter takes, beside the columns that there are.
 *
 * @throws SieveError `plan-value` with the key of the parameter as its field, `no-such-column`
 */
export function checkValue(
  key: string,
  parameter: Parameter,
  value: unknown,
  columns: readonly ColumnInfo[],
): void {
  const fail = (message: string) => new SieveError('plan-value', message, { field: key });
  const { label } = parameter;
  switch (parameter.type) {
    case 'columns':
      if (value === undefined && parameter.optional) return;
      if (!isTexts(value)) throw fail(`${label}: names of columns are needed.`);
      if (value.length === 0 && parameter.none === undefined) throw fail(`Choose ${label}.`);
      for (const name of value) checkColumn(key, name, parameter, columns);
      return;
    case 'column':
      if (typeof value !== 'string') throw fail(`${label}: the name of a column is needed.`);
      if (value === '' && parameter.none !== undefined) return;
      if (value === '') throw fail(`Choose ${label}.`);
      checkColumn(key, value, parameter, columns);
      return;
    case 'choice':
      if (value === undefined && parameter.optional) return;
      if (!parameter.choices.some((choice) => choice.value === value))
        throw fail(`${label} is one of ${parameter.choices.map((choice) => choice.value).join(', ')}.`);
      return;
    case 'several':
      if (!isTexts(value) || !value.every((one) => parameter.choices.includes(one)))
        throw fail(`${label} are some of ${parameter.choices.join(', ')}.`);
      if (value.length === 0) throw fail(`Choose ${label}.`);
      return;
    case 'number':
      if (value === undefined && parameter.optional) return;
      checkNumber(parameter, value, fail);
      return;
    case 'text':
    case 'formula':
      if (typeof value !== 'string') throw fail(`${label}: a text is needed.`);
      if (value.trim() === '' && parameter.none === undefined) throw fail(`Write ${label}.`);
      return;
    case 'texts':
      if (!isTexts(value)) throw fail(`${label}: a list of texts is needed.`);
      if (value.length === 0 && parameter.none === undefined) throw fail(`Give ${label}.`);
      return;
    case 'pairs':
      if (!Array.isArray(value) || !value.every((pair) => isTexts(pair) && pair.length === 2))
        throw fail(`${label}: a list of pairs of texts is needed.`);
      if (value.length === 0) throw fail(`Give ${label}.`);
  }
}

function checkNumber(
  { label, min, max, step }: NumberParameter,
  value: unknown,
  fail: (message: string) => SieveError,
): void {
  if (typeof value !== 'number' || !Number.isFinite(value)) throw fail(`${label}: a number is needed.`);
  if (step === 1 && !Number.isInteger(value)) throw fail(`${label}: a whole number is needed.`);
  if (min !== undefined && value < min) throw fail(`${label} is at least ${min}.`);
  if (max !== undefined && value > max) throw fail(`${label} is at most ${max}.`);
}

function checkColumn(
  key: string,
  name: string,
  { of, label }: ColumnsParameter | ColumnParameter,
  columns: readonly ColumnInfo[],
): void {
  const column = columns.find((c) => c.name === name);
  if (!column) throw new SieveError('no-such-column', noSuchColumn(name).message, { field: key });
  if (!fitsKind(column.kind, of))
    throw new SieveError(
      'plan-value',
      `${name} holds ${KIND_WORDS[column.kind]}; ${label} must hold ${(of ?? []).map((kind) => KIND_WORDS[kind]).join(' or ')}.`,
      { field: key },
    );
}

/** Whether a column of a kind may be chosen. */
export const fitsKind = (kind: ColumnKind, of: readonly ColumnKind[] | undefined): boolean =>
  of === undefined || of.includes(kind);

const isTexts = (value: unknown): value is readonly string[] =>
  Array.isArray(value) && value.every((one) => typeof one === 'string');
