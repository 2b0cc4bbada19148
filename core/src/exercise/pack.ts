import { strToU8, zipSync, type ZippableFile } from 'fflate';
import { allHold, check, type Check } from '../check/check.js';
import type { AnswerKey } from '../check/judge.js';
import { exampleHeader, type PredictionRules } from '../check/rules.js';
import { SieveError } from '../errors.js';
import { foldCsv, type FoldAssignment } from '../folds/fold-assignment.js';
import { rowNames } from '../formats/assignment.js';
import { writeCsv, writeRecords } from '../formats/csv/write.js';
import type { Metric } from '../metrics/metric.js';
import { areaOf, rankingOf } from '../metrics/ranking.js';
import { at, counted } from '../numbers.js';
import { seededRandom, shuffle } from '../random/random.js';
import { partition } from '../split/partition.js';
import { rowsOfPart } from '../split/parts.js';
import { splitKindOf, type SplitPlan } from '../split/split-kinds.js';
import { labelsOf } from '../table/labels.js';
import { featuresOf, type Roles } from '../table/roles.js';
import {
  cellText,
  columnNamed,
  isCoded,
  selectRows,
  type CodedColumn,
  type Column,
  type Table,
} from '../table/table.js';

export interface PackFile {
  readonly name: string;
  readonly bytes: number;
  /** Rows and columns of a table; null for a text. */
  readonly shape: readonly [number, number] | null;
}

export interface Pack {
  /** The archive that students download; the same for the same inputs, byte by byte. */
  readonly zip: Uint8Array;
  readonly files: readonly PackFile[];
  readonly audit: readonly Check[];
  readonly rules: PredictionRules;
  readonly key: AnswerKey;
}

export interface PackRequest {
  readonly table: Table;
  readonly roles: Roles;
  readonly plan: SplitPlan;
  /** Part of each row, as `splitRows` gives it. */
  readonly parts: Int8Array;
  /** Folds over the training rows; null for none. */
  readonly folds: FoldAssignment | null;
  /** What columns mean, by their names. */
  readonly descriptions: Readonly<Record<string, string>>;
  readonly metric: Metric;
  /** Markdown for brief.md. */
  readonly brief: string;
  /** Share of the held-out rows for feedback, in percent. */
  readonly feedbackShare: number;
  /** Seed of the order of held-out rows. It must not be known to students, nor follow from anything they know. */
  readonly secretSeed: number;
}

/** Name of the identifier in packs of tables that have none. */
const OWN_IDENTIFIER = 'row';
/** Every entry of the archive bears this time, so that times tell nothing. */
const ENTRY_TIME = new Date(2020, 0, 1);

/**
 * Makes what students get for a predictions question, and the key that they never get.
 *
 * @throws SieveError `pack-audit` when the audit finds that the pack gives answers away
 */
export function makePack(request: PackRequest): Pack {
  const { table, roles, parts, metric } = request;
  const heldout = shuffle(rowsOfPart(parts, 2), seededRandom(request.secretSeed, 'held-out order'));
  const features = featuresOf(table, roles).map((column) => column.name);
  const identifier = identifierName(roles, features);
  const target = columnNamed(table, roles.target);
  const classes = roles.task === 'regression' ? null : labelsOf(target);
  const groups = groupsOf(request);
  const identifiers = Array.from(heldout, (row, i) =>
    roles.identifier === null ? String(i + 1) : (cellText(columnNamed(table, roles.identifier), row) ?? ''),
  );
  const rules: PredictionRules = {
    identifier,
    identifiers,
    task: roles.task,
    labels: classes?.labels ?? [],
    positive: roles.positive,
    needs: metric.needs,
  };
  const key: AnswerKey = {
    task: roles.task,
    labels: rules.labels,
    positive: roles.positive,
    classes: classes ? heldout.map((row) => at(classes.codes, row)) : null,
    values:
      !classes && target.kind === 'number'
        ? Float64Array.from(heldout, (row) => at(target.values, row))
        : null,
    groups: groups ? heldout.map((row) => at(groups, row)) : null,
    feedback: feedbackRows(request, heldout),
  };

  const withId = (rows: Int32Array, names: readonly string[]): Table => {
    if (roles.identifier !== null) return selectRows(table, rows, [roles.identifier, ...names]);
    return selectRows(table, rows, names);
  };
  const heldoutTable: Table = {
    rowCount: heldout.length,
    columns: [identifierColumn(identifier, identifiers), ...selectRows(table, heldout, features).columns],
  };
  const learned = [...features, ...(roles.weight === null ? [] : [roles.weight]), roles.target];
  const tables: [string, Table][] = [['training.csv', withId(rowsOfPart(parts, 0), learned)]];
  const validation = rowsOfPart(parts, 1);
  if (validation.length > 0) tables.push(['validation.csv', withId(validation, learned)]);
  tables.push(['held-out.csv', heldoutTable]);

  const audit = auditPack(heldoutTable, roles, key);
  const refused = audit.find((c) => c.outcome === 'fails');
  if (refused && !allHold(audit))
    throw new SieveError('pack-audit', `The pack is not released: ${refused.message}.`);

  const contents: Content[] = [
    ...tables.map(([name, t]) => ({
      name,
      text: writeCsv(t),
      shape: [t.rowCount, t.columns.length] as [number, number],
    })),
    {
      name: 'example.csv',
      text: exampleFile(rules, table, roles, parts),
      shape: [identifiers.length, exampleHeader(rules).length],
    },
    ...foldFile(request),
    ...columnsFile(request, [identifier, ...learned]),
    { name: 'brief.md', text: `${request.brief.trimEnd()}\n`, shape: null },
  ];
  const entries = contents.map(({ name, text }): [string, ZippableFile] => [
    name,
    [strToU8(text), { mtime: ENTRY_TIME }],
  ]);
  return {
    zip: zipSync(Object.fromEntries(entries)),
    files: contents.map(({ name, text, shape }) => ({ name, bytes: strToU8(text).length, shape })),
    audit,
    rules,
    key,
  };
}

interface Content {
  readonly name: string;
  readonly text: string;
  readonly shape: [number, number] | null;
}

/** The fold of each training row, by its identifier or its place among the training rows from 0. */
function foldFile({ table, roles, parts, folds }: PackRequest): Content[] {
  if (!folds) return [];
  const rows = rowsOfPart(parts, 0);
  const places = new Map(Array.from(rows, (row, place) => [row, place]));
  const names =
    roles.identifier === null
      ? { header: OWN_IDENTIFIER, name: (row: number) => String(places.get(row)) }
      : rowNames(table, roles.identifier);
  const columns = folds.drawn ? 4 : 3;
  return [
    {
      name: 'folds.csv',
      text: foldCsv(names, folds, rows),
      shape: [rows.length * folds.tests.length, columns],
    },
  ];
}

/** What the columns that students get mean, where the instructor has said so. */
function columnsFile({ descriptions }: PackRequest, names: readonly string[]): Content[] {
  const lines = names.flatMap((name) => {
    const text = descriptions[name];
    return text === undefined ? [] : [[name, text]];
  });
  if (lines.length === 0) return [];
  return [
    { name: 'columns.csv', text: writeRecords(['column', 'meaning'], lines), shape: [lines.length, 2] },
  ];
}

function identifierName(roles: Roles, features: readonly string[]): string {
  if (roles.identifier !== null) return roles.identifier;
  let name = OWN_IDENTIFIER;
  while (features.includes(name) || name === roles.target) name = `${name}_number`;
  return name;
}

function identifierColumn(name: string, identifiers: readonly string[]): CodedColumn {
  return { kind: 'text', name, levels: identifiers, codes: Int32Array.from(identifiers.keys()) };
}

/**
 * The group of each row of the table, for intervals of scores: those that the plan names, or the role's where a plan
 * has no say in groups (rows of one group resemble one another, whichever way they were held out). A row without a
 * group is one of its own. Null where rows are taken as independent.
 */
function groupsOf(request: PackRequest): Int32Array | null {
  const { table, roles, plan } = request;
  const hasSay = 'group' in splitKindOf(plan).parameters;
  const name = hasSay ? (wayOf(request).group ?? null) : roles.group;
  if (name === null) return null;
  const { labels, codes } = labelsOf(columnNamed(table, name));
  return codes.map((code, row) => (code < 0 ? labels.length + row : code));
}

/** The groups that the split kept whole, and the column that it gave equal shares. */
const wayOf = ({ table, plan }: PackRequest) => splitKindOf(plan).ask(table, plan.values).plan;

/** Feedback rows drawn in the way of the split itself: stratified, and by whole groups where it kept them whole. */
function feedbackRows(request: PackRequest, heldout: Int32Array): Uint8Array {
  const feedback = new Uint8Array(heldout.length);
  if (request.feedbackShare === 0) return feedback;
  const usable = new Uint8Array(request.table.rowCount);
  for (const row of heldout) usable[row] = 1;
  const { group, stratify } = wayOf(request);
  const drawn = partition(
    request.table,
    {
      method:
        stratify === undefined
          ? group === undefined
            ? 'random'
            : 'grouped'
          : group === undefined
            ? 'stratified'
            : 'stratified-grouped',
      parts: [
        { name: 'feedback', share: request.feedbackShare / 100 },
        { name: 'final', rest: true },
      ],
      seed: request.secretSeed,
      ...(stratify === undefined ? {} : { stratify }),
      ...(group === undefined ? {} : { group }),
    },
    usable,
  ).parts;
  return feedback.map((_, i) => (drawn[at(heldout, i)] === 0 ? 1 : 0));
}

/** A file that passes every check and knows nothing: the same answer for every row, taken from training rows. */
function exampleFile(rules: PredictionRules, table: Table, roles: Roles, parts: Int8Array): string {
  const target = columnNamed(table, roles.target);
  const training = rowsOfPart(parts, 0);
  let values: string[];
  if (rules.task === 'regression') {
    const numbers = target.kind === 'number' ? Array.from(training, (row) => at(target.values, row)) : [];
    values = [(numbers.reduce((a, b) => a + b, 0) / numbers.length).toPrecision(4)];
  } else if (rules.needs === 'probabilities') {
    const columns = exampleHeader(rules).length - 1;
    const even = Math.floor(1e6 / rules.labels.length) / 1e6;
    values = Array.from({ length: columns }, () => String(columns === 1 ? 0.5 : even));
  } else {
    values = [at(rules.labels, 0)];
  }
  return writeRecords(
    exampleHeader(rules),
    rules.identifiers.map((id) => [id, ...values]),
  );
}

/** What a pack must not tell: the target itself, an order or an identifier that follows it. */
function auditPack(heldout: Table, roles: Roles, key: AnswerKey): Check[] {
  const names = heldout.columns.map((column) => column.name);
  const kept = [roles.target, ...roles.withheld].filter((name) => names.includes(name));
  const checks = [
    kept.length === 0
      ? check('no-target', 'holds', 'Neither the target nor a withheld column is among the held-out features')
      : check('no-target', 'fails', `${kept.join(', ')} would be handed out`),
  ];
  const copies = heldout.columns.slice(1).filter((column) => copiesTarget(column, key));
  checks.push(
    copies.length === 0
      ? check('no-copy', 'holds', 'No feature gives the target of every row')
      : check(
          'no-copy',
          'fails',
          `${copies.map((c) => c.name).join(', ')} gives the target of every held-out row; withhold it at Look`,
        ),
  );
  const position = Float64Array.from({ length: heldout.rowCount }, (_, i) => i);
  checks.push(orderCheck('order', 'The order of the held-out rows', position, key));
  const ids = Float64Array.from(position, (_, i) => Number(cellText(at(heldout.columns, 0), i)));
  const numeric = ids.every((id) => !Number.isNaN(id));
  checks.push(
    orderCheck('identifiers', 'The order of the identifiers', numeric ? ids : textRanks(heldout), key),
  );
  return checks;
}

/** Whether each value of a feature goes with one answer only, in rows enough to say so. */
function copiesTarget(column: Column, key: AnswerKey): boolean {
  const answers = key.classes ?? key.values;
  if (!answers) return false;
  const cells: ArrayLike<number> = isCoded(column) ? column.codes : column.values;
  const answerOf = new Map<number, number>();
  for (let row = 0; row < cells.length; row++) {
    const answer = answerOf.get(at(cells, row));
    if (answer === undefined) answerOf.set(at(cells, row), at(answers, row));
    else if (answer !== at(answers, row)) return false;
  }
  return answerOf.size * 2 <= cells.length && new Set(answerOf.values()).size > 1;
}

function textRanks(heldout: Table): Float64Array {
  const { labels, codes } = labelsOf(at(heldout.columns, 0));
  return Float64Array.from(codes, (code) => (labels.length > 0 ? code : 0));
}

/** Four standard errors of the area under no relation (Hanley and McNeil): chance alone exceeds it once in 16,000. */
const TELLING_STEPS = 4;

/** Whether an order of rows tells the target: the area of each class, or of above-median values, along the order. */
function orderCheck(id: string, what: string, order: Float64Array, key: AnswerKey): Check {
  const { classes, values } = key;
  const sorted = values?.slice().sort();
  const middle = sorted ? at(sorted, Math.floor(sorted.length / 2)) : 0;
  const codes = classes ?? Int32Array.from(values ?? order, (value) => (value >= middle ? 0 : 1));
  let worst = { steps: 0, area: 0.5 };
  for (let code = 0; code < Math.max(1, key.labels.length); code++) {
    const area = areaOf(rankingOf(order, codes, code, null));
    const n = codes.filter((other) => other === code).length;
    const se = Math.sqrt((order.length + 1) / (12 * n * (order.length - n)));
    const steps = Math.abs(area - 0.5) / se;
    if (Number.isFinite(steps) && steps > worst.steps) worst = { steps, area };
  }
  const measured = `area ${Math.max(worst.area, 1 - worst.area).toFixed(2)} in ${counted(order.length, 'row')}`;
  return worst.steps < TELLING_STEPS
    ? check(id, 'holds', `${what} says nothing`, { measured })
    : check(id, 'unsure', `${what} goes with the target`, { measured, expected: 'about 0.50' });
}
