import { at } from '../../foundation/numbers.js';
import type { Material } from './material.js';
import { shuffle } from '../../foundation/random/random.js';
import { keyedRandom, type Secret } from '../../foundation/random/secret.js';
import { rowsOfPart } from '../../splitting/parts/parts.js';
import { splitterOf } from '../../splitting/splits/registry.js';
import { labelsOf } from '../../data/table/labels.js';
import { featuresOf, type Roles } from '../../data/table/roles.js';
import { cellText, columnNamed } from '../../data/table/table.js';

/** The rows that are to be predicted, in the order of the pack, which says nothing. */
export interface HeldOut {
  readonly rows: Int32Array;
  readonly identifier: string;
  readonly identifiers: readonly string[];
  /** The group of each row; null where rows are taken as independent. */
  readonly groups: Int32Array | null;
  /** 1 for rows whose score may be shown while the exercise is open. */
  readonly feedback: Uint8Array;
}

/** What a held-out row is for, once and for all exercises on the data set. */
export const FEEDBACK = 1;
export const FINAL = 2;

/** Name of the identifier in packs of tables that have none. */
export const OWN_IDENTIFIER = 'row';

export function heldOutOf(material: Material): HeldOut {
  const { table, roles, parts, secret } = material;
  const rows = shuffle(rowsOfPart(parts, 2), keyedRandom(secret, { what: 'held-out order' }));
  const groups = groupsOf(material);
  return {
    rows,
    identifier: identifierName(
      roles,
      featuresOf(table, roles).map(({ name }) => name),
    ),
    identifiers: Array.from(rows, (row, i) =>
      roles.identifier === null ? String(i + 1) : (cellText(columnNamed(table, roles.identifier), row) ?? ''),
    ),
    groups: groups ? rows.map((row) => at(groups, row)) : null,
    feedback: Uint8Array.from(rows, (row) => (material.division[row] === FEEDBACK ? 1 : 0)),
  };
}

/** The training rows in the order of the pack, by their identifier or their place in the file from 0. */
export function givenRows({ table, roles, parts, secret }: Material) {
  const rows = packOrder(rowsOfPart(parts, 0), secret, 'training order');
  const column = roles.identifier === null ? null : columnNamed(table, roles.identifier);
  return {
    rows,
    identifier: roles.identifier ?? OWN_IDENTIFIER,
    identifiers: Array.from(rows, (row, place) => (column ? (cellText(column, row) ?? '') : String(place))),
  };
}

/** Rows in an order that says nothing; packs of the first versions gave training rows as the table has them. */
export const packOrder = (
  rows: Int32Array,
  secret: Secret,
  what: 'training order' | 'validation order',
): Int32Array => (secret.algorithm === 'seed@1' ? rows : shuffle(rows, keyedRandom(secret, { what })));

function identifierName(roles: Roles, features: readonly string[]): string {
  if (roles.identifier !== null) return roles.identifier;
  let name = OWN_IDENTIFIER;
  while (features.includes(name) || name === roles.target) name = `${name}_number`;
  return name;
}

/**
 * The group of each row of the table, for intervals of scores: those that the plan names, or the role's where a plan
 * has no say in groups (rows of one group resemble one another, whichever way they were held out). A row without a
 * group is one of its own. Null where rows are taken as independent.
 */
export function groupsOf(material: Pick<Material, 'table' | 'roles' | 'plan'>): Int32Array | null {
  const { table, roles, plan } = material;
  const kind = splitterOf(plan);
  const hasSay = 'group' in kind.parameters && kind.holdsOut === 'plan';
  const name = hasSay ? (kind.ask(table, plan.values).plan.group ?? null) : roles.group;
  if (name === null) return null;
  const { labels, codes } = labelsOf(columnNamed(table, name));
  return codes.map((code, row) => (code < 0 ? labels.length + row : code));
}
