import { shuffle, seededRandom } from '@modest-sieve/core/foundation';
import type { AnswerKey, PredictionRules } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { WearInfo } from '../api/api.js';
import type { ExerciseRecord } from '../exercises/exercise.entity.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { notFound } from '../platform/errors/problem.js';
import { fetchFile } from '../platform/files/files.js';
import { LATEST_RECEIPT } from '../exercises/own-marks.js';
import { EXERCISE_TASKS } from '../exercises/exercise.tasks.js';
import { judgedBy, predictionsBy } from './judged-by.js';

const SECONDS = 60;
/** Of the students and divisions that are tried; it says nothing of an answer. */
const SEED = 1;
/** Files and bytes that are read at most, of students chosen at random. */
const MOST_FILES = 300;
const MOST_BYTES = 64 * 2 ** 20;

interface Checked {
  readonly personId: string;
  readonly sha256: string;
  readonly size: number;
  readonly shown: boolean;
}

/** How worn the feedback rows of a question are: for staff, and of nobody by name. */
@Injectable()
export class WearGauge {
  constructor(private readonly compute: Compute) {}

  /** @throws Problem where the question asks for no predictions, or has no feedback rows */
  async measure(caller: Caller, exercise: ExerciseRecord, question: string): Promise<WearInfo> {
    const { id: exerciseId } = exercise;
    const { db } = caller;
    const by = predictionsBy(await judgedBy(db, exercise, question));
    if (!by?.key.feedback.includes(1)) throw notFound();
    const checked: Checked[] = await db.query(
      `SELECT s.person_id AS "personId", s.file_sha256 AS sha256, f.size::int,
              EXISTS (SELECT 1 FROM receipt o WHERE o.submission_id = s.id AND o.stage = 'open'
                        AND o.disclosed #>> '{scored,feedback,score}' IS NOT NULL) AS shown
         FROM submission s JOIN file f ON f.sha256 = s.file_sha256 ${LATEST_RECEIPT}
        WHERE s.exercise_id = $1 AND s.question = $2 AND r.outcome = 'checked' ORDER BY s.person_id, s.number`,
      [exerciseId, question],
    );
    const { expected, ...wear } = await this.compute.run(
      EXERCISE_TASKS.wear,
      await this.request(caller, checked, { ...by, seed: SEED }),
      within(caller, SECONDS),
    );
    const counts = { attempts: checked.length, shown: checked.filter(({ shown }) => shown).length };
    if ('reason' in expected)
      return { ...counts, ...wear, expected: null, asLarge: null, reason: expected.reason };
    const { asLarge, ...chance } = expected;
    return { ...counts, ...wear, expected: chance, asLarge, reason: null };
  }

  private async request(
    { db }: Caller,
    checked: readonly Checked[],
    by: {
      readonly rules: PredictionRules & { readonly metric: string };
      readonly key: AnswerKey;
      readonly seed: number;
    },
  ) {
    const people = [...new Set(checked.map(({ personId }) => personId))];
    const order = shuffle(Int32Array.from(people.keys()), seededRandom(by.seed, 'wear of'));
    const answers: Uint8Array[][] = [];
    let [files, bytes] = [0, 0];
    for (const place of order) {
      const own: Uint8Array[] = [];
      for (const { personId, sha256, size } of checked) {
        if (personId !== people[place]) continue;
        [files, bytes] = [files + 1, bytes + size];
        if (files > MOST_FILES || bytes > MOST_BYTES) break;
        own.push(new Uint8Array(await fetchFile(db, 'public', sha256)));
      }
      if (own.length > 0) answers.push(own);
    }
    return { answers, rules: by.rules, key: by.key, metric: by.rules.metric, seed: by.seed };
  }
}
