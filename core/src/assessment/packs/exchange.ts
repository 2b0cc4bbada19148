import { SieveError } from '../../foundation/errors.js';
import type { Question } from '../questions/question.js';
import type { Secret } from '../../foundation/random/secret.js';
import type { KeyOf } from './pack.js';
import type { ReleasedQuestion } from './released-question.js';

const EXERCISE_VERSION = 1;
/** From 2 on variants follow from a secret, not from a seed. */
const KEYS_VERSION = 2;

/** A released exercise as a file: what is asked, and what answers must look like. */
export interface ExerciseAsFile {
  readonly version: typeof EXERCISE_VERSION;
  readonly title: string;
  readonly questions: readonly Question[];
  readonly released: readonly ReleasedQuestion[];
}

/** The keys of a released exercise as a file. It is for staff alone. */
export interface KeysAsFile {
  readonly version: typeof KEYS_VERSION;
  /** What the variants of students are generated from. */
  readonly secret: Secret;
  /** By the questions' ids. */
  readonly keys: Readonly<Record<string, KeyOf>>;
}

/** Arrays of numbers by how they are held: JSON has but one kind of list. */
const ARRAYS = { int32: Int32Array, uint8: Uint8Array, float64: Float64Array } as const;

/** As JSON, with what JSON cannot hold under the name of its kind: `{"int32": [0, 1]}`. */
export const writeKeys = (file: Omit<KeysAsFile, 'version'>): string =>
  JSON.stringify({ version: KEYS_VERSION, ...file }, (_, value: unknown) => {
    for (const [name, kind] of Object.entries(ARRAYS))
      // A number that is none is null in JSON, and NaN again when it is read.
      if (value instanceof kind) return { [name]: Array.from(value) };
    return value;
  });

export const writeExercise = (file: Omit<ExerciseAsFile, 'version'>): string =>
  JSON.stringify({ version: EXERCISE_VERSION, ...file });

/** @throws SieveError `exercise-file` where it is none, or of another version */
export function readExercise(text: string, file: string): ExerciseAsFile {
  const none = `${file} is no exercise that was released: it has no questions.`;
  const read = readVersioned(text, file, EXERCISE_VERSION, { field: 'questions', none });
  if (!isExercise(read)) throw new SieveError('exercise-file', none, { file });
  return read;
}

/** @throws SieveError `exercise-file` where it has no keys, or of another version */
export function readKeys(text: string, file: string): KeysAsFile {
  const none = `${file} holds no keys.`;
  const read = readVersioned(text, file, KEYS_VERSION, { field: 'keys', none }, (_, value: unknown) => {
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
    const [[name, list] = ['', null], ...others] = Object.entries(value);
    const kind = Object.entries(ARRAYS).find(([known]) => known === name)?.[1];
    if (!kind || others.length > 0 || !Array.isArray(list)) return value;
    return kind.from(list.map((one) => (one === null ? NaN : Number(one))));
  });
  if (!hasKeys(read)) throw new SieveError('exercise-file', none, { file });
  return read;
}

const isNamed = (one: unknown): boolean =>
  typeof one === 'object' && one !== null && 'id' in one && 'kind' in one;
const areNamed = (list: unknown): boolean => Array.isArray(list) && list.every(isNamed);

const isExercise = (read: object): read is ExerciseAsFile =>
  'questions' in read && areNamed(read.questions) && 'released' in read && areNamed(read.released);

const hasKeys = (read: object): read is KeysAsFile =>
  'secret' in read &&
  typeof read.secret === 'object' &&
  read.secret !== null &&
  'bytes' in read.secret &&
  read.secret.bytes instanceof Uint8Array &&
  'keys' in read &&
  typeof read.keys === 'object' &&
  read.keys !== null &&
  Object.values(read.keys).every((one) => typeof one === 'object' && one !== null && 'key' in one);

function readVersioned(
  text: string,
  file: string,
  wanted: number,
  { field, none }: { readonly field: string; readonly none: string },
  revive?: (key: string, value: unknown) => unknown,
): object {
  let read: unknown;
  try {
    read = JSON.parse(text, revive);
  } catch {
    throw new SieveError('exercise-file', `${file} is not JSON.`, { file });
  }
  if (typeof read === 'object' && read !== null && !(field in read))
    throw new SieveError('exercise-file', none, { file });
  const version = typeof read === 'object' && read !== null && 'version' in read ? read.version : null;
  if (typeof read !== 'object' || read === null || version !== wanted)
    throw new SieveError('exercise-file', `${file} is of version ${String(version)}, not ${wanted}.`, {
      file,
    });
  return read;
}
