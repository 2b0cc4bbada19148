import { at, counted, indices } from '../../foundation/numbers.js';
import { chancesOf, likeliest } from '../../models/contract/chances.js';
import { predictRows, type Fitted } from '../../models/fitted.js';
import { modelFamilyOf } from '../../models/registry.js';
import { columnNamed, type Table } from '../../data/table/table.js';
import type { ModelFile } from './model-file.js';
import { partsPicture } from './pictures.js';

/** A model that this program fitted and saved. */
export function fittedFile(fitted: Fitted): ModelFile {
  const inputs = fitted.recipe.features.map(({ name }) => name);
  return {
    format: 'fitted',
    inputs: fitted.recipe.features.map(({ name, kind }) => ({
      name,
      takes: kind === 'number' ? 'numbers' : 'texts',
      values: null,
    })),
    outline: `${modelFamilyOf(fitted.model).title}, ${counted(inputs.length, 'feature')}`,
    picture: () => partsPicture([{ name: modelFamilyOf(fitted.model).title, count: 1 }]),
    predict(table, columnOf) {
      const renamed: Table = {
        rowCount: table.rowCount,
        columns: inputs.map((name) => ({ ...columnNamed(table, columnOf(name)), name })),
      };
      const predicted = predictRows(fitted, renamed, indices(table.rowCount));
      if (fitted.labels.length === 0)
        return Promise.resolve({ values: Array.from(at(predicted, 0)), probabilities: null, problems: [] });
      const shares = chancesOf(predicted, fitted.positive);
      const values = Array.from(likeliest(shares, fitted.positive), (label) => at(fitted.labels, label));
      return Promise.resolve({
        values,
        probabilities: { labels: fitted.labels, values: shares },
        problems: [],
      });
    },
  };
}
