import { groupedBy, seededRandom, shuffle } from '@modest-sieve/core/foundation';
import type { AnswerKey, PredictionRules } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { WearInfo } from '../api/api.js';
import type { ExerciseRecord } from '../exercises/exercise.entity.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { notFound } from '../platform/errors/problem.js';
import { fetchFiles } from '../platform/files/files.js';
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
      `SELECT s.person_id AS "personId", s.file_sha256 AS sha256,
              EXISTS (SELECT 1 FROM receipt o WHERE o.submission_id = s.id AND o.stage = 'open'
                        AND o.disclosed #>> '{scored,feedback,score}' IS NOT NULL) AS shown
         FROM submission s ${LATEST_RECEIPT}
        WHERE s.file_sha256 IS NOT NULL AND s.exercise_id = $1 AND s.question = $2 AND r.outcome = 'checked' ORDER BY s.person_id, s.number`,
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
    const ofPerson = groupedBy(checked, ({ personId }) => personId);
    const people = [...ofPerson.keys()];
    const order = shuffle(Int32Array.from(people.keys()), seededRandom(by.seed, 'wear of'));
    const chosen = Array.from(order, (place) => ofPerson.get(people[place] ?? '') ?? [])
      .flat()
      .slice(0, MOST_FILES);
    const files = await fetchFiles(
      db,
      'public',
      chosen.map(({ sha256 }) => sha256),
      MOST_BYTES,
    );
    const read = files.map((file, i) => ({ file, personId: chosen[i]?.personId }));
    const answers = Array.from(groupedBy(read, ({ personId }) => personId).values(), (own) =>
      own.map(({ file }) => file),
    );
    return { answers, rules: by.rules, key: by.key, metric: by.rules.metric, seed: by.seed };
  }
}
