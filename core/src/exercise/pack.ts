import { strToU8, unzipSync, zipSync, type ZippableFile } from 'fflate';
import { allHold, type Check } from '../check/check.js';
import type { AnswerKey } from '../check/judge.js';
import { SieveError } from '../errors.js';
import { foldCsv } from '../folds/fold-assignment.js';
import { rowNames } from '../formats/assignment.js';
import { writeCsv, writeRecords } from '../formats/csv/write.js';
import { modelOf } from '../models/registry.js';
import { at, indices } from '../numbers.js';
import type { Material, PackContent } from '../questions/kind.js';
import { marksOf, type Question, type QuestionKindKey } from '../questions/question.js';
import { questionKindOf } from '../questions/registry.js';
import type { Keys, PredictionsRules, Rules } from '../questions/rules.js';
import { seededRandom, shuffle } from '../random/random.js';
import { rowsOfPart } from '../split/parts.js';
import { STARTERS, writeStarter } from '../starter/starter.js';
import { featuresOf } from '../table/roles.js';
import { labelsOf } from '../table/labels.js';
import { columnNamed, isCoded, selectRows, type CodedColumn, type Table } from '../table/table.js';
import { auditPack, auditSeries, type SeriesRows } from './audit.js';
import { heldOutOf, OWN_IDENTIFIER } from './held-out.js';

export interface PackFile {
  readonly name: string;
  readonly bytes: number;
  /** Rows and columns of a table; null for a text. */
  readonly shape: readonly [number, number] | null;
}

/** A question as it is kept for students: what they may know, and nothing else. */
export interface ReleasedQuestion {
  readonly id: string;
  readonly kind: QuestionKindKey;
  readonly title: string;
  readonly text: string;
  readonly marks: number;
  readonly rules: Rules;
  /** The file of the pack that is an example of what is handed in; null for none. */
  readonly example: string | null;
}

/** How the key of a question came about. */
export interface KeyOf {
  readonly key: Keys;
  readonly about: readonly string[];
}

export interface Pack {
  /** The archive that students download; the same for the same inputs, byte by byte. */
  readonly zip: Uint8Array;
  readonly files: readonly PackFile[];
  readonly audit: readonly Check[];
  readonly questions: readonly ReleasedQuestion[];
  /** By the questions' ids. */
  readonly keys: Readonly<Record<string, KeyOf>>;
}

export interface PackRequest extends Material {
  readonly questions: readonly Question[];
  /** What columns mean, by their names. */
  readonly descriptions: Readonly<Record<string, string>>;
  readonly title: string;
  /** Markdown for brief.md, under the title. */
  readonly brief: string;
  /** Whether rows get identifiers by lot in place of their own, so that nobody finds them in a source they know. */
  readonly reissued: boolean;
}

/** Every entry of the archive bears this time, so that times tell nothing. */
const ENTRY_TIME = new Date(2020, 0, 1);

/**
 * Makes what students get for an exercise, and the keys that they never get.
 *
 * @throws SieveError `pack-audit` when the audit finds that the pack gives answers away, and where a question has no key
 */
export function makePack(asked: PackRequest): Pack {
  const request = asked.reissued ? withIdentifiersByLot(asked) : asked;
  const made = request.questions.map((question) => ({
    question,
    ...questionKindOf(question.kind).make(question, request),
  }));
  const answers = made.map(({ key }) => key).find(isAnswerKey);
  const wanted = made.map(({ rules }) => rules).find(isPredictions);
  const heldout = answers ? heldOutTable(request) : null;
  const series = seriesOf(request);
  const audit =
    heldout && answers
      ? [...auditPack(heldout, request.roles, answers), ...(series ? auditSeries(series) : [])]
      : [];
  const refused = audit.find((c) => c.outcome === 'fails');
  if (refused && !allHold(audit))
    throw new SieveError('pack-audit', `The pack is not released: ${refused.message}.`);

  const examples = exampleNames(made);
  const contents: PackContent[] = [
    ...givenTables(request, heldout).map(([name, table]) => ({
      name,
      text: writeCsv(table),
      shape: [table.rowCount, table.columns.length] as const,
    })),
    ...made.flatMap(({ question, example }) => {
      const name = examples.get(question.id);
      return name === undefined || example === null ? [] : [{ name, text: example, shape: shapeOf(example) }];
    }),
    ...foldFile(request),
    ...columnsFile(request, heldout),
    ...(wanted ? starterFiles(request, wanted) : []),
    { name: BRIEF, text: briefText(request.title, request.brief), shape: null },
  ];
  const encoded = contents.map(({ name, text, shape }) => ({ name, shape, bytes: strToU8(text) }));
  return {
    zip: archiveOf(encoded.map(({ name, bytes }) => [name, bytes])),
    files: encoded.map(({ name, bytes, shape }) => ({ name, bytes: bytes.length, shape })),
    audit,
    questions: made.map(({ question, rules }) => ({
      id: question.id,
      kind: question.kind,
      title: question.title,
      text: question.text,
      marks: marksOf(question),
      rules,
      example: examples.get(question.id) ?? null,
    })),
    keys: Object.fromEntries(made.map(({ question, key, about }) => [question.id, { key, about }])),
  };
}

const BRIEF = 'brief.md';
const briefText = (title: string, brief: string): string => `# ${title}\n\n${brief.trimEnd()}\n`;

/** An archive whose brief is another; all its other files stay as they are. */
export function withBrief(
  { zip, files }: Pick<Pack, 'zip' | 'files'>,
  { title, brief }: Pick<PackRequest, 'title' | 'brief'>,
): Pick<Pack, 'zip' | 'files'> {
  const bytes = strToU8(briefText(title, brief));
  const entries = Object.entries({ ...unzipSync(zip), [BRIEF]: bytes });
  return {
    zip: archiveOf(entries),
    files: files.map((file) => (file.name === BRIEF ? { ...file, bytes: bytes.length } : file)),
  };
}

const archiveOf = (entries: readonly (readonly [string, Uint8Array])[]): Uint8Array =>
  zipSync(
    Object.fromEntries(
      entries.map(([name, bytes]): [string, ZippableFile] => [name, [bytes, { mtime: ENTRY_TIME }]]),
    ),
  );

/** The rows that students get as they follow one another, by the roles; null where there is no series of numbers. */
function seriesOf({ table, roles, parts }: PackRequest): SeriesRows | null {
  const target = columnNamed(table, roles.target);
  const time = roles.time === null ? null : columnNamed(table, roles.time);
  if (time === null || isCoded(time) || roles.task !== 'regression' || target.kind !== 'number') return null;
  return {
    given: indices(table.rowCount).filter((row) => at(parts, row) >= 0),
    isHeldOut: Uint8Array.from(parts, (part) => (part === 2 ? 1 : 0)),
    target: target.values,
    times: time.values,
    groups:
      roles.group === null ? new Int32Array(table.rowCount) : labelsOf(columnNamed(table, roles.group)).codes,
    features: featuresOf(table, roles),
  };
}

/** The same with a number by lot in place of each row's identifier; unchanged where rows have none. */
function withIdentifiersByLot(request: PackRequest): PackRequest {
  const { table, roles, secretSeed } = request;
  const places = shuffle(indices(table.rowCount), seededRandom(secretSeed, 'identifiers'));
  const digits = String(table.rowCount).length;
  const names = Array.from(places, (place) => String(place + 1).padStart(digits, '0'));
  const columns = table.columns.map((column) =>
    column.name === roles.identifier ? identifierColumn(column.name, names) : column,
  );
  return { ...request, table: { ...table, columns } };
}

const isAnswerKey = (key: Keys): key is AnswerKey => 'feedback' in key;
const isPredictions = (rules: Rules): rules is PredictionsRules => 'needs' in rules;

/** Names of the examples: `example.csv` of predictions, `split-example.csv` and so on, numbered from the second on. */
function exampleNames(
  made: readonly { readonly question: Question; readonly example: string | null }[],
): Map<string, string> {
  const names = new Map<string, string>();
  const counts = new Map<QuestionKindKey, number>();
  for (const { question, example } of made) {
    if (example === null) continue;
    const { kind, id } = question;
    const nth = (counts.get(kind) ?? 0) + 1;
    counts.set(kind, nth);
    names.set(id, `${kind === 'predictions' ? '' : `${kind}-`}example${nth > 1 ? `-${nth}` : ''}.csv`);
  }
  return names;
}

/** Rows under the header and columns of a text of records. */
function shapeOf(text: string): [number, number] {
  const lines = text.trimEnd().split('\n');
  return [lines.length - 1, at(lines, 0).split(',').length];
}

/** What a model may learn from: features, weight and target, and the identifier before them. */
function learnedColumns({ table, roles }: PackRequest): string[] {
  const features = featuresOf(table, roles).map(({ name }) => name);
  const identifier = roles.identifier === null ? [] : [roles.identifier];
  return [...identifier, ...features, ...(roles.weight === null ? [] : [roles.weight]), roles.target];
}

/** Training and validation rows with their targets, held-out rows without. */
function givenTables(request: PackRequest, heldout: Table | null): [string, Table][] {
  const { table, parts } = request;
  const learned = learnedColumns(request);
  const tables: [string, Table][] = [['training.csv', selectRows(table, rowsOfPart(parts, 0), learned)]];
  const validation = rowsOfPart(parts, 1);
  if (validation.length > 0) tables.push(['validation.csv', selectRows(table, validation, learned)]);
  if (heldout) tables.push(['held-out.csv', heldout]);
  return tables;
}

function heldOutTable(request: PackRequest): Table {
  const { table, roles } = request;
  const { rows, identifier, identifiers } = heldOutOf(request);
  const features = featuresOf(table, roles).map(({ name }) => name);
  return {
    rowCount: rows.length,
    columns: [identifierColumn(identifier, identifiers), ...selectRows(table, rows, features).columns],
  };
}

function identifierColumn(name: string, identifiers: readonly string[]): CodedColumn {
  return { kind: 'text', name, levels: identifiers, codes: Int32Array.from(identifiers.keys()) };
}

/** Notebooks and a script that fit a baseline and write a file that is accepted: where to begin, and no more. */
function starterFiles({ table, roles, title, folds }: PackRequest, rules: PredictionsRules): PackContent[] {
  const baselines = { labels: 'most-frequent', probabilities: 'class-shares', numbers: 'mean' } as const;
  const starter = {
    title,
    identifier: rules.identifier,
    target: roles.target,
    task: roles.task,
    labels: rules.labels,
    positive: roles.positive,
    needs: rules.needs,
    features: featuresOf(table, roles).map(({ name, kind }) => ({ name, kind })),
    weight: roles.weight,
    model: modelOf(baselines[rules.needs]),
    folds: folds === null ? ('none' as const) : folds.drawn ? ('drawn' as const) : ('dealt' as const),
    seed: 0,
  };
  return (['python', 'r', 'script'] as const).map((form) => ({
    name: STARTERS[form].file,
    text: writeStarter(starter, form),
    shape: null,
  }));
}

/** The fold of each training row, by its identifier or its place among the training rows from 0. */
function foldFile({ table, roles, parts, folds }: PackRequest): PackContent[] {
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
function columnsFile(request: PackRequest, heldout: Table | null): PackContent[] {
  const names = new Set([...(heldout?.columns.map(({ name }) => name) ?? []), ...learnedColumns(request)]);
  const lines = [...names].flatMap((name) => {
    const text = request.descriptions[name];
    return text === undefined ? [] : [[name, text]];
  });
  if (lines.length === 0) return [];
  return [
    { name: 'columns.csv', text: writeRecords(['column', 'meaning'], lines), shape: [lines.length, 2] },
  ];
}
