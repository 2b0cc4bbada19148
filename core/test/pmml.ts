import { readModel } from '../src/assessment/model-files/read-model.js';
import { columnsFor } from '../src/assessment/model-files/columns.js';
import { bytesOf, tableOf } from './files.js';

/** Field names with their kinds: "number", or the values of a category. */
export type Fields = Readonly<Record<string, 'number' | readonly string[]>>;

const dictionary = (fields: Fields) =>
  Object.entries(fields)
    .map(([name, kind]) =>
      kind === 'number'
        ? `<DataField name="${name}" optype="continuous" dataType="double"/>`
        : `<DataField name="${name}" optype="categorical" dataType="string">${kind.map((value) => `<Value value="${value}"/>`).join('')}</DataField>`,
    )
    .join('');

/** A schema of all fields; `y` is the target. */
export const schemaOf = (fields: Fields, more: Readonly<Record<string, string>> = {}) =>
  `<MiningSchema>${Object.keys(fields)
    .map(
      (name) =>
        `<MiningField name="${name}" ${name === 'y' ? 'usageType="target"' : ''} ${more[name] ?? ''}/>`,
    )
    .join('')}</MiningSchema>`;

/** A PMML file of version 4.4 with one model. */
export const pmmlText = (fields: Fields, model: string, transformations = '') =>
  `<?xml version="1.0"?><PMML version="4.4" xmlns="http://www.dmg.org/PMML-4_4"><Header/><DataDictionary>${dictionary(fields)}</DataDictionary>${
    transformations === '' ? '' : `<TransformationDictionary>${transformations}</TransformationDictionary>`
  }${model}</PMML>`;

/** What a PMML text predicts for rows of a CSV text. */
export async function predicted(pmml: string, csv: string) {
  const model = readModel(bytesOf(pmml), 'model.pmml', { columns: [] });
  const table = tableOf(csv);
  const columns = table.columns.map(({ name }) => name);
  const found = await model.predict(table, columnsFor(model.inputs, columns));
  const shareOf = (label: string) =>
    Array.from(found.probabilities?.values[found.probabilities.labels.indexOf(label)] ?? []);
  return { ...found, shareOf, inputs: model.inputs };
}
