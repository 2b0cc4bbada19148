import { check, type Check } from '../../foundation/check.js';
import { at, counted } from '../../foundation/numbers.js';
import { columnField, type ModelReport } from '../questions/contract/model-run.js';
import type { ModelRules } from '../questions/model/question.js';
import { proposedColumns } from './columns.js';
import type { ModelFile } from './model-file.js';

/** The column for each input: the one that was chosen, or else the proposed one. */
export function chosenColumns(
  { inputs }: ModelFile,
  { columns }: ModelRules,
  fields: Readonly<Record<string, string>>,
): (string | null)[] {
  const proposed = proposedColumns(
    inputs,
    columns.map(({ name }) => name),
  );
  return inputs.map(({ name }, i) => fields[columnField(name)] ?? proposed[i] ?? null);
}

type Inputs = ModelReport['inputs'];

/** The column for an input, by its name. */
export const columnsBy = (inputs: Inputs) => {
  const byName = new Map(inputs.map(({ name, column }) => [name, column ?? name]));
  return (input: string) => byName.get(input) ?? input;
};

/** Whether every input has a column, and none that may not be used. */
export function inputsCheck(inputs: Inputs, { columns, forbidden }: ModelRules): Check {
  const allowed = new Set(columns.map(({ name }) => name));
  const wrong = inputs.flatMap(({ name, column }) => {
    const not = [name, column].find((one) => one !== null && forbidden.includes(one));
    if (not !== undefined) return [`“${not}” may not be used`];
    if (column === null) return [`no column is named for the input “${name}”`];
    return allowed.has(column) ? [] : [`“${column}” is no column of the pack that may be used`];
  });
  const expected = `some of ${columns.map(({ name }) => name).join(', ')}`;
  if (wrong.length > 0)
    return check(
      'inputs',
      'fails',
      `The model takes what it may not, or what there is not: ${at(wrong, 0)}.`,
      {
        measured: counted(inputs.length, 'input'),
        expected,
        examples: wrong.map((text) => ({ line: null, column: null, text })),
      },
    );
  return check('inputs', 'holds', 'Every input is a column that it may use', {
    measured: counted(inputs.length, 'input'),
  });
}
