import type { Feature } from './recipe.js';

/** A column of a design: what it is called, and of which feature it is. */
export interface Term {
  readonly name: string;
  readonly feature: string;
}

/** Numbers alone: missing cells filled, a category as one column of 0 and 1 for each level after the first. */
export interface Design {
  readonly rowCount: number;
  readonly terms: readonly Term[];
  /** One for each term, of `rowCount` values. */
  readonly columns: readonly Float64Array[];
}

/** The design of features, the first level of each category left out as the one that others are compared with. */
export function designOf(features: readonly Feature[], rowCount: number): Design {
  const terms: Term[] = [];
  const columns: Float64Array[] = [];
  const add = (feature: string, name: string, values: Float64Array) => {
    terms.push({ name, feature });
    columns.push(values);
  };
  for (const feature of features) {
    const { name } = feature;
    if (feature.kind === 'number') add(name, name, filled(feature.values, feature.fill));
    else if (feature.kind === 'words')
      feature.words.forEach((word, w) =>
        add(name, `${name}: ${word}`, feature.counts[w] ?? new Float64Array()),
      );
    else
      feature.levels.slice(1).forEach((level, l) => {
        const values = new Float64Array(rowCount);
        for (let row = 0; row < rowCount; row++) {
          const code = feature.codes[row] ?? -1;
          if ((code < 0 ? feature.fill : code) === l + 1) values[row] = 1;
        }
        add(name, `${name} = ${level}`, values);
      });
  }
  return { rowCount, terms, columns };
}

function filled(values: Float64Array, fill: number): Float64Array {
  let out = values;
  for (let row = 0; row < values.length; row++) {
    if (!Number.isNaN(values[row])) continue;
    if (out === values) out = values.slice();
    out[row] = fill;
  }
  return out;
}
