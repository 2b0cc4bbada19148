import { at } from '../numbers.js';
import type { Material } from '../questions/kind.js';
import { seededRandom, shuffle } from '../random/random.js';
import { partition } from '../split/partition.js';
import { rowsOfPart } from '../split/parts.js';
import { splitKindOf } from '../split/split-kinds.js';
import { labelsOf } from '../table/labels.js';
import { featuresOf, type Roles } from '../table/roles.js';
import { cellText, columnNamed } from '../table/table.js';

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

/** Name of the identifier in packs of tables that have none. */
export const OWN_IDENTIFIER = 'row';

export function heldOutOf(material: Material): HeldOut {
  const { table, roles, parts, secretSeed } = material;
  const rows = shuffle(rowsOfPart(parts, 2), seededRandom(secretSeed, 'held-out order'));
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
    feedback: feedbackRows(material, rows),
  };
}

/** The training rows, by their identifier or their place in the file from 0. */
export function givenRows({ table, roles, parts }: Material) {
  const rows = rowsOfPart(parts, 0);
  const column = roles.identifier === null ? null : columnNamed(table, roles.identifier);
  return {
    rows,
    identifier: roles.identifier ?? OWN_IDENTIFIER,
    identifiers: Array.from(rows, (row, place) => (column ? (cellText(column, row) ?? '') : String(place))),
  };
}

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
function groupsOf(material: Material): Int32Array | null {
  const { table, roles, plan } = material;
  const hasSay = 'group' in splitKindOf(plan).parameters;
  const name = hasSay ? (wayOf(material).group ?? null) : roles.group;
  if (name === null) return null;
  const { labels, codes } = labelsOf(columnNamed(table, name));
  return codes.map((code, row) => (code < 0 ? labels.length + row : code));
}

/** The groups that the split kept whole, and the column that it gave equal shares. */
const wayOf = ({ table, plan }: Material) => splitKindOf(plan).ask(table, plan.values).plan;

/** Feedback rows drawn in the way of the split itself: stratified, and by whole groups where it kept them whole. */
function feedbackRows(material: Material, heldout: Int32Array): Uint8Array {
  const feedback = new Uint8Array(heldout.length);
  if (material.feedbackShare === 0) return feedback;
  const usable = new Uint8Array(material.table.rowCount);
  for (const row of heldout) usable[row] = 1;
  const { group, stratify } = wayOf(material);
  const byRows = stratify === undefined ? 'random' : 'stratified';
  const byGroups = stratify === undefined ? 'grouped' : 'stratified-grouped';
  const drawn = partition(
    material.table,
    {
      method: group === undefined ? byRows : byGroups,
      parts: [
        { name: 'feedback', share: material.feedbackShare / 100 },
        { name: 'final', rest: true },
      ],
      seed: material.secretSeed,
      ...(stratify === undefined ? {} : { stratify }),
      ...(group === undefined ? {} : { group }),
    },
    usable,
  ).parts;
  return feedback.map((_, i) => (drawn[at(heldout, i)] === 0 ? 1 : 0));
}
