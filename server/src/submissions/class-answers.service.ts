import type { AnswerEvidence, AnswerOf } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { ClassAnswersInfo, LikenessInfo, SubmissionInfo } from '../api/api.js';
import { SheetRecord } from '../exercises/answer-key.js';
import { PackRecord, type ExerciseRecord } from '../exercises/exercise.entity.js';
import { EXERCISE_TASKS } from '../exercises/exercise.tasks.js';
import { secretOf } from '../exercises/secret.entity.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { notFound } from '../platform/errors/problem.js';
import { fetchFile, fetchFiles } from '../platform/files/files.js';
import { countingOf } from './class-view.js';
import { judgedBy, predictionsBy, type JudgedBy } from './judged-by.js';
import { Submissions } from './submissions.service.js';

const SECONDS = 60;
/** Bytes that are read at most. */
const MOST_BYTES = 64 * 2 ** 20;

/** What the answers of a class have in common: for staff alone, since it says what is right. */
@Injectable()
export class AnswersOfClass {
  constructor(
    private readonly compute: Compute,
    private readonly submissions: Submissions,
  ) {}

  /** @throws Problem where there is no such question */
  async find(caller: Caller, exercise: ExerciseRecord, question: string): Promise<ClassAnswersInfo> {
    const by = await judgedBy(caller.db, exercise, question);
    const submissions = await this.submissions.forStaff(caller, exercise);
    const counting = countingOf(submissions, question, exercise.counts);
    const options = await this.options(caller, exercise, by, counting);
    return { ...(await this.rows(caller, exercise, by, counting)), options };
  }

  /** Where one answer goes wrong; null where it is no file of predictions. */
  async evidence(
    caller: Caller,
    exercise: ExerciseRecord,
    { question, sha256 }: Pick<SubmissionInfo, 'question' | 'sha256'>,
  ): Promise<AnswerEvidence | null> {
    const by = predictionsBy(await judgedBy(caller.db, exercise, question));
    if (!by || sha256 === null) return null;
    const file = new Uint8Array(await fetchFile(caller.db, 'public', sha256));
    const zip = await packOf(caller, exercise);
    return this.compute.run(EXERCISE_TASKS.answerEvidence, { zip, file, ...by }, within(caller, SECONDS));
  }

  /** What answers of different students share; only those that passed their checks are compared. */
  async likeness(caller: Caller, exercise: ExerciseRecord, id: string): Promise<LikenessInfo> {
    const { db } = caller;
    const { question, key } = await judgedBy(db, exercise, id);
    const { questions } = await db.findOneByOrFail(SheetRecord, {
      exerciseId: exercise.id,
      revision: exercise.revision,
    });
    const composed = questions.find((one) => one.id === id);
    if (!composed) throw notFound();
    const checked = (await this.submissions.forStaff(caller, exercise)).filter(
      (one) => one.question === id && one.outcome === 'checked',
    );
    const answers: AnswerOf[] = [];
    const files = (await filesOf(caller, checked)).values();
    for (const { id: answer, person, fields, sha256, fileName } of checked) {
      const file = sha256 === null ? null : files.next().value;
      if (file === undefined) break;
      answers.push({
        ...{ answer, fields, student: person.id },
        file: file && { name: fileName ?? 'the file', bytes: file },
      });
    }
    const secret = await secretOf(db, exercise.id);
    const found = await this.compute.run(
      EXERCISE_TASKS.likeness,
      {
        question: composed,
        rules: question.rules,
        key,
        secret,
        answers,
        zip: await packOf(caller, exercise),
      },
      within(caller, SECONDS),
    );
    const same = sameFiles(checked);
    return { ...found, compared: answers.length, leftOut: checked.length - answers.length, same };
  }

  private async rows(
    caller: Caller,
    exercise: ExerciseRecord,
    judged: JudgedBy,
    counting: readonly SubmissionInfo[],
  ): Promise<Pick<ClassAnswersInfo, 'rows' | 'leftOut'>> {
    const by = predictionsBy(judged);
    if (!by) return { rows: null, leftOut: 0 };
    const zip = await packOf(caller, exercise);
    const files = await filesOf(caller, counting);
    const rows = await this.compute.run(
      EXERCISE_TASKS.classRows,
      { zip, files, ...by },
      within(caller, SECONDS),
    );
    return { rows, leftOut: counting.length - files.length };
  }

  private async options(
    caller: Caller,
    { id: exerciseId }: ExerciseRecord,
    { question, key }: JudgedBy,
    counting: readonly SubmissionInfo[],
  ): Promise<ClassAnswersInfo['options']> {
    const secret = await secretOf(caller.db, exerciseId);
    const answers = counting
      .filter(({ sha256 }) => sha256 === null)
      .map(({ person, fields }) => ({ who: { secret, question: question.id, id: person.id }, fields }));
    if (answers.length === 0) return [];
    return this.compute.run(EXERCISE_TASKS.options, { question, key, answers }, within(caller, SECONDS));
  }
}

/** The files of answers, of the first ones as many as are read. */
const filesOf = ({ db }: Caller, answers: readonly SubmissionInfo[]): Promise<Uint8Array[]> =>
  fetchFiles(
    db,
    'public',
    answers.flatMap(({ sha256 }) => sha256 ?? []),
    MOST_BYTES,
  );

async function packOf({ db }: Caller, { id: exerciseId }: ExerciseRecord): Promise<Uint8Array> {
  const { zip } = await db.findOneOrFail(PackRecord, {
    where: { exerciseId },
    select: { exerciseId: true, zip: true },
  });
  return new Uint8Array(zip);
}

/** Answers of different students with one and the same file: of each student the first. */
function sameFiles(checked: readonly SubmissionInfo[]): string[][] {
  const byFile = new Map<string, Map<string, string>>();
  for (const { id, sha256, person } of checked) {
    if (sha256 === null) continue;
    const own = byFile.get(sha256) ?? new Map<string, string>();
    byFile.set(sha256, own);
    if (!own.has(person.id)) own.set(person.id, id);
  }
  return [...byFile.values()].filter(({ size }) => size > 1).map((students) => [...students.values()]);
}
