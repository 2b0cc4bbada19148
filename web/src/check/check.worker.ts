import type { Check } from '@modest-sieve/core/foundation';
import {
  compareAnswers,
  readAnswer,
  type AnswerDifference,
  type ModelReport,
  type QuestionKindKey,
} from '@modest-sieve/core/assessment';
import type { Schemas } from '../api/client.js';

export interface CheckRequest {
  readonly file: File;
  readonly kind: QuestionKindKey;
  readonly rules: Schemas['Rules'];
}

/** What the page receives; what the file holds stays in the worker. */
export interface CheckAnswer {
  readonly checks: readonly Check[];
  readonly rows: number | null;
  readonly milliseconds: number;
  /** Of a model that could be read; left out for other files. */
  readonly model?: TriedModel;
}

/** What is found of a model before it is sent. */
export interface TriedModel {
  readonly report: ModelReport;
  /** What it says of the example rows; empty where it could not be run. */
  readonly says: readonly string[];
}

/** A file that was handed in, with what was typed beside it. */
export interface HandedIn {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly fields: Readonly<Record<string, string>>;
}

export interface CompareRequest {
  readonly kind: QuestionKindKey;
  readonly rules: Schemas['Rules'];
  readonly before: HandedIn;
  readonly after: HandedIn;
}

async function checked({ file, kind, rules }: CheckRequest): Promise<CheckAnswer> {
  const start = performance.now();
  const answer = { file: { name: file.name, bytes: new Uint8Array(await file.arrayBuffer()) }, fields: {} };
  const { checks, rows } = readAnswer(kind, answer, rules);
  return {
    // What is typed beside the file is looked at on the page.
    checks: checks.filter(({ id }) => !id.startsWith('field ')),
    rows,
    milliseconds: performance.now() - start,
  };
}

const answerOf = ({ name, bytes, fields }: HandedIn) => ({ file: { name, bytes }, fields });

const compared = ({ kind, rules, before, after }: CompareRequest): AnswerDifference | null =>
  compareAnswers(kind, rules, answerOf(before), answerOf(after));

// One worker for both: each would carry all that reads answers.
addEventListener('message', ({ data }: MessageEvent<CheckRequest | CompareRequest>) => {
  void (async () => {
    postMessage('file' in data ? await checked(data) : compared(data));
    // The page receives what no file should bring about, such as one that vanished since it was chosen.
  })().catch(reportError);
});
