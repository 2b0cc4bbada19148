import type { ReleasedQuestion } from './released-question.js';
import { strToU8, unzipSync, zipSync, type ZippableFile } from 'fflate';
import { check, type Check } from '../../foundation/check.js';
import type { AnswerKey } from '../files/judge.js';
import { SieveError } from '../../foundation/errors.js';
import { writeCsv } from '../../data/formats/csv/write.js';
import { counted, indices } from '../../foundation/numbers.js';
import type { PackContent } from '../questions/contract/kind.js';
import {
  marksOf,
  type Question,
  type QuestionKindKey,
  type Keys,
  type Rules,
} from '../questions/question.js';
import { questionKindOf } from '../questions/registry.js';
import type { ModelRules } from '../questions/model/question.js';
import type { PredictionsRules } from '../questions/predictions/question.js';
import { shuffle } from '../../foundation/random/random.js';
import { keyedRandom } from '../../foundation/random/secret.js';
import { rowsOfPart } from '../../splitting/parts/parts.js';
import { compareWithRelease } from '../releases/compare-releases.js';
import { completeDivision } from './division.js';
import { learnedAudit, type LearnedAudit } from '../../audit/learned/audit.js';
import { auditPack } from './audit.js';
import { briefText, type BriefHead } from './brief.js';
import { starterFiles } from './starter-files.js';
import {
  shapeOf,
  givenTables,
  heldOutTable,
  identifierColumn,
  foldFile,
  columnsFile,
} from './pack-tables.js';
import type { DividedRequest, PackRequest } from './pack-request.js';

export interface PackFile {
  readonly name: string;
  readonly bytes: number;
  /** Rows and columns of a table; null for a text. */
  readonly shape: readonly [number, number] | null;
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
  /** What was looked at before the release; see `refusalOf`. */
  readonly audit: readonly Check[];
  /** What each row of the table is for in the data set's reserve, as `Material` has it. */
  readonly division: Uint8Array;
  readonly questions: readonly ReleasedQuestion[];
  /** By the questions' ids. */
  readonly keys: Readonly<Record<string, KeyOf>>;
}

/** Every entry of the archive bears this time, so that times reveal nothing. */
const ENTRY_TIME = new Date(2020, 0, 1);

/**
 * Makes what students get for an exercise, and the keys that they never get. Whether it may be released is for
 * `refusalOf` to say.
 *
 * @throws SieveError where a question has no key, and as `completeDivision`
 */
export function makePack(asked: PackRequest): Pack {
  const division = completeDivision(asked, asked.reserve);
  const divided = { ...asked, division };
  const request = asked.reissued ? withRandomIdentifiers(divided) : divided;
  const made = request.questions.map((question) => ({
    question,
    ...questionKindOf(question.kind).make(question, request),
  }));
  const answers = made.map(({ key }) => key).find(isAnswerKey);
  const rulesOfAll = made.map(({ rules }) => rules);
  const begins = {
    predictions: rulesOfAll.find(isPredictions) ?? null,
    model: rulesOfAll.find(isModel) ?? null,
  };
  const heldout = answers ? heldOutTable(request) : null;
  const isGiven = made.some(({ question }) => questionKindOf(question.kind).givesHeldOut(question));
  const audit = [
    ...(heldout && answers
      ? [...auditPack(heldout, request.roles, answers), ...learnedAudit(learned(request))]
      : []),
    ...auditReleases(divided),
  ];

  const examples = exampleNames(made);
  const contents: PackContent[] = [
    ...givenTables(request, isGiven ? heldout : null).map(([name, table]) => ({
      name,
      text: writeCsv(table),
      shape: [table.rowCount, table.columns.length] as const,
    })),
    ...made.flatMap(({ question, example }) => {
      const name = examples.get(question.id);
      return name === undefined || example === null ? [] : [{ name, text: example, shape: shapeOf(example) }];
    }),
    ...foldFile(request),
    ...columnsFile(request, isGiven ? heldout : null),
    ...starterFiles(request, begins),
  ];
  const questions = made.map(({ question, rules }) => ({
    id: question.id,
    kind: question.kind,
    title: question.title,
    text: question.text,
    marks: marksOf(question),
    rules,
    example: examples.get(question.id) ?? null,
  }));
  const encoded = [...contents, { name: BRIEF, text: briefText(request, questions), shape: null }].map(
    ({ name, text, shape }) => ({ name, shape, bytes: strToU8(text) }),
  );
  return {
    zip: archiveOf(encoded.map(({ name, bytes }) => [name, bytes])),
    files: encoded.map(({ name, bytes, shape }) => ({ name, bytes: bytes.length, shape })),
    audit,
    division,
    questions,
    keys: Object.fromEntries(made.map(({ question, key, about }) => [question.id, { key, about }])),
  };
}

/** Rows with and without their target, under the identifiers that students get. */
const learned = ({ table, roles, parts }: DividedRequest): LearnedAudit => ({
  table,
  roles,
  fit: Int32Array.from(parts.keys()).filter((row) => parts[row] === 0 || parts[row] === 1),
  judge: rowsOfPart(parts, 2),
});

/** What the pack and each earlier release give away together. */
function auditReleases({ table, roles, parts, division, earlier }: DividedRequest): Check[] {
  const found = earlier.flatMap((other) => compareWithRelease({ table, roles, parts }, division, other));
  if (found.length > 0 || earlier.length === 0) return found;
  return [
    check('releases', 'holds', 'No row that is held out here or there is given with its target', {
      measured: `compared with ${counted(earlier.length, 'earlier release')}`,
    }),
  ];
}

/**
 * Why a pack may not be released; null where it may. What fails is refused. What is unsure is released only with a
 * reason, which is recorded.
 *
 * @param reason what the instructor said to it; empty for nothing
 */
export function refusalOf(audit: readonly Check[], reason: string): SieveError | null {
  const failed = audit.find(({ outcome }) => outcome === 'fails');
  if (failed) return new SieveError('pack-audit', `The pack is not released: ${failed.message}.`);
  const unsure = audit.find(({ outcome }) => outcome === 'unsure');
  if (!unsure || reason.trim() !== '') return null;
  return new SieveError(
    'needs-reason',
    `The pack is not released yet: ${unsure.message}. Say why it may be released all the same; the reason is recorded.`,
    { field: 'reason' },
  );
}

const BRIEF = 'brief.md';

/** An archive whose brief is another; all its other files stay as they are. */
export function withBrief(
  { zip, files }: Pick<Pack, 'zip' | 'files'>,
  head: BriefHead,
  questions: readonly ReleasedQuestion[],
): Pick<Pack, 'zip' | 'files'> {
  const bytes = strToU8(briefText(head, questions));
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

/** The same with a random number in place of each row's identifier; unchanged where rows have none. */
function withRandomIdentifiers(request: DividedRequest): DividedRequest {
  const { table, roles, secret } = request;
  const places = shuffle(indices(table.rowCount), keyedRandom(secret, { what: 'identifiers' }));
  const digits = String(table.rowCount).length;
  const names = Array.from(places, (place) => String(place + 1).padStart(digits, '0'));
  const columns = table.columns.map((column) =>
    column.name === roles.identifier ? identifierColumn(column.name, names) : column,
  );
  return { ...request, table: { ...table, columns } };
}

const isAnswerKey = (key: Keys): key is AnswerKey => 'feedback' in key;
const isModel = (rules: Rules): rules is ModelRules => 'takes' in rules;
const isPredictions = (rules: Rules): rules is PredictionsRules => 'needs' in rules && 'identifiers' in rules;

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
