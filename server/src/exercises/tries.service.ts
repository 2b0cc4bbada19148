import type { Answer, Question } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { ExercisePreview, TriedAnswer } from '../api/api.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { ModelProcesses } from '../platform/models/model-process.js';
import { ranAnswer } from '../checking/ran-answer.js';
import { notFound } from '../platform/errors/problem.js';
import { SheetRecord } from './answer-key.js';
import { Exercises } from './exercises.service.js';
import type { ExerciseRecord } from './exercise.entity.js';
import { Reserves } from '../reserve/reserves.service.js';
import { fetchDraftMaterial } from './material.js';
import { briefHead } from './briefs.service.js';
import { personalSheet } from './sheets.js';

const SECONDS = 60;

/** Exercises as a student would have them, for instructors. Nothing of it is kept. */
@Injectable()
export class Tries {
  constructor(
    private readonly exercises: Exercises,
    private readonly compute: Compute,
    private readonly models: ModelProcesses,
    private readonly reserves: Reserves,
  ) {}

  private materialOf = ({ db, person }: Caller, exercise: ExerciseRecord) =>
    fetchDraftMaterial(db, this.reserves, exercise, person.id);

  /** A draft as its students would get it. */
  async preview(caller: Caller, id: string): Promise<ExercisePreview> {
    const exercise = await this.exercises.find(caller, id);
    const { material } = await this.materialOf(caller, exercise);
    const pack = await this.compute.run(
      'pack',
      {
        ...material,
        questions: await questionsOf(caller, id, exercise.revision),
        ...(await briefHead(caller.db, exercise)),
        reissued: exercise.reissued,
      },
      within(caller, SECONDS),
    );
    return {
      sheets: pack.questions.map((question) => personalSheet(question, material.secret, caller.person.id)),
      files: pack.files,
      audit: pack.audit,
      keys: Object.entries(pack.keys).map(([question, { about }]) => ({ question, about })),
    };
  }

  /** What an answer would come to. */
  async tryAnswer(caller: Caller, id: string, questionId: string, answer: Answer): Promise<TriedAnswer> {
    const exercise = await this.exercises.find(caller, id);
    const questions = await questionsOf(caller, id, exercise.revision);
    const question = questions.find((one) => one.id === questionId);
    if (!question) throw notFound();
    const { material } = await this.materialOf(caller, exercise);
    const head = await briefHead(caller.db, exercise);
    const by = await this.compute.run(
      'keyOf',
      { ...material, ...head, question, reissued: exercise.reissued },
      within(caller, SECONDS),
    );
    const ran = await ranAnswer(this.models, answer, by, AbortSignal.timeout(SECONDS * 1000));
    const who = { secret: material.secret, question: question.id, id: caller.person.id };
    const result = await this.compute.run(
      'mark',
      { question, answer: ran, ...by, who, stepped: false, before: null },
      within(caller, SECONDS),
    );
    return { result };
  }
}

async function questionsOf({ db }: Caller, exerciseId: string, revision: number): Promise<Question[]> {
  const { questions } = await db.findOneByOrFail(SheetRecord, { exerciseId, revision });
  return questions;
}
