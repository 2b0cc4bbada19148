import { rowsOfPart } from '../../splitting/parts/parts.js';
import { selectRows } from '../../data/table/table.js';
import type { GeneratorMaterial } from '../generators/generator.js';
import { givenRows, packOrder } from './held-out.js';
import type { Material } from './material.js';

/** What generators compute from: of the table only what is in the files of the pack. */
export function generatorMaterial(material: Material): GeneratorMaterial {
  const { table, roles, parts, secret } = material;
  const columns = table.columns.map(({ name }) => name).filter((name) => !roles.withheld.includes(name));
  const training = givenRows(material).rows;
  const validation = packOrder(rowsOfPart(parts, 1), secret, 'validation order');
  return {
    table: selectRows(table, training, columns),
    validation: validation.length > 0 ? selectRows(table, validation, columns) : null,
    all: selectRows(table, Int32Array.from([...training, ...validation]), columns),
    roles,
  };
}
