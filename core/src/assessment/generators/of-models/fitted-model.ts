import { SieveError } from '../../../foundation/errors.js';
import { count, indices } from '../../../foundation/numbers.js';
import type { ColumnInfo, ColumnsParameter, TextParameter } from '../../../data/sentence/parameter.js';
import { checkPlanned, newPlan, type Plan } from '../../../data/sentence/sentence.js';
import { featuresOf, type Roles } from '../../../data/table/roles.js';
import { columnNamed, isMissing, type Table } from '../../../data/table/table.js';
import { modelFromSettings, modelWords } from '../../../models/settings.js';
import { fitModel, readyFor, type FitRequest, type Fitted } from '../../../models/fitted.js';
import { targetOf } from '../../../models/prepared/target.js';
import { checkModel, modelFamilyOf } from '../../../models/registry.js';
import { COMPARED_OR_BASELINE } from '../compared-families.js';
import { givenOf } from '../of-data/rows.js';

/** A model in one line, as the command line has it. */
export const modelParameter = (start: string) =>
  ({ type: 'text', label: 'model', start }) as const satisfies TextParameter;

export const FEATURES = {
  type: 'columns',
  label: 'features',
  none: 'all features',
} as const satisfies ColumnsParameter;

/**
 * The model that a line names. Only families whose models come out the same in any program can be asked for.
 *
 * @throws SieveError `plan-kind`, `plan-value` with the field
 */
function modelIn(line: string, field = 'model'): Plan {
  const [family = '', ...settings] = line.trim().split(/\s+(?=\w+=)/);
  if (!COMPARED_OR_BASELINE.some(({ key }) => key === family))
    throw new SieveError(
      'plan-value',
      `Write a model as its family and its settings, such as “tree depth=3”; the families are ${COMPARED_OR_BASELINE.map(({ key }) => key).join(', ')}.`,
      { field },
    );
  return modelFromSettings(family, settings, field);
}

/** The columns that are predicted from: those that are named, or all features. */
const chosenFeatures = (
  table: { readonly columns: readonly ColumnInfo[] },
  roles: Roles,
  features: readonly string[],
): readonly string[] => (features.length > 0 ? features : featuresOf(table, roles).map(({ name }) => name));

/**
 * Makes sure of a model and its features before there are data.
 *
 * @throws SieveError `plan-kind`, `plan-value`, `no-such-column`, with the key of a parameter as its field
 */
export function checkFitted(
  { model, features }: { readonly model: string; readonly features: readonly string[] },
  columns: readonly ColumnInfo[],
  roles: Roles,
): void {
  const plan = modelIn(model);
  try {
    const kind = checkModel(plan, roles.task, columns);
    checkPlanned(kind, plan, columns);
  } catch (error) {
    if (error instanceof SieveError) throw new SieveError(error.code, error.message, { field: 'model' });
    throw error;
  }
  if (features.includes(roles.target))
    throw new SieveError('plan-value', `${roles.target} is the target and no feature.`, {
      field: 'features',
    });
}

/** A model to be fitted to all rows of a table that have a target. */
export function requestFor(
  table: Table,
  roles: Roles,
  { model, features }: { readonly model: string; readonly features: readonly string[] },
): FitRequest {
  checkFitted({ model, features }, table.columns, roles);
  const target = columnNamed(table, roles.target);
  return {
    table,
    model: modelIn(model),
    task: roles.task,
    targetName: roles.target,
    target: targetOf(table, roles),
    features: chosenFeatures(table, roles, features),
    rows: indices(table.rowCount).filter((row) => !isMissing(target, row)),
    weights: null,
    group: null,
    seed: 0,
  };
}

/** A fitted model, and the numbers that it was fitted to. */
export interface FittedTo {
  readonly fitted: Fitted;
  readonly request: FitRequest;
}

/** @throws SieveError as `fitModel` throws it, with the field of the model */
export function fitTo(
  table: Table,
  roles: Roles,
  values: { readonly model: string; readonly features: readonly string[] },
): FittedTo {
  const request = requestFor(table, roles, values);
  return { fitted: fitModel(request), request };
}

/** Numbers that a model was fitted to. */
export const designFor = (request: FitRequest) => readyFor(request).training.design();

/** A model in words: of a tree, which has many settings, those that are not as a tree begins. */
function wordsOf(model: Plan): string {
  const kind = modelFamilyOf(model);
  if (kind.key !== 'tree') return modelWords(model);
  const begun = newPlan(kind, []).values;
  const said = Object.entries(kind.parameters).flatMap(([key, { label }]) =>
    model.values[key] === begun[key] ? [] : [`${label} ${String(model.values[key])}`],
  );
  return said.length > 0 ? `${kind.title} (${said.join(', ')})` : kind.title;
}

/** What a text may say of a fitted model, with the conventions that its figures follow. */
export function givenModel(
  table: Table,
  { model, features, targetName }: FitRequest,
  named: readonly string[],
): Record<string, string> {
  const columns = features.map((name) => columnNamed(table, name));
  const hasGaps = columns.some((column) => {
    for (let row = 0; row < table.rowCount; row++) if (isMissing(column, row)) return true;
    return false;
  });
  const hasLevels = columns.some(({ kind }) => kind === 'category' || kind === 'boolean');
  const isPenalised = 'penalty' in modelFamilyOf(model).parameters;
  const notes = [
    ...(isPenalised
      ? [
          'The penalty stands beside 1/(2n) of the squared residuals, or the mean of the negative log-likelihood, with columns standardised by their deviation with n.',
        ]
      : []),
    ...(hasGaps
      ? ['A missing number is filled with the median of the column, a missing class with its commonest.']
      : []),
    ...(columns.some(({ kind }) => kind === 'time') ? ['A date counts in days since 1970-01-01.'] : []),
    ...(hasLevels
      ? ['Classes of a column are in alphabetical order; linear models compare the others with the first.']
      : []),
  ];
  return {
    ...givenOf(table, 'training'),
    model: wordsOf(model),
    target: targetName,
    features: named.length > 0 ? named.map((name) => `**${name}**`).join(', ') : 'all features',
    notes: notes.join(' '),
    n: count(table.rowCount),
  };
}
