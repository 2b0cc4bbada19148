import type { Answer } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { ExercisePreview, TriedAnswer } from '../api/api.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { ModelProcesses } from '../platform/models/model-process.js';
import { ranAnswer } from './ran-answer.js';
import { notFound } from '../platform/errors/problem.js';
import { Exercises } from './exercises.service.js';
import type { ExerciseRecord } from './exercise.entity.js';
import { Reserves } from '../reserve/reserves.service.js';
import { fetchDraftRequest } from './material.js';
import { fileRules, personalSheet } from './sheets.js';
import { EXERCISE_TASKS } from './exercise.tasks.js';

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

  /** A draft as its students would get it. */
  async preview(caller: Caller, id: string): Promise<ExercisePreview> {
    const { request, secret } = await this.requestOf(caller, await this.exercises.find(caller, id));
    const pack = await this.compute.run(EXERCISE_TASKS.pack, request, within(caller, SECONDS));
    return {
      sheets: pack.questions.map((question) => personalSheet(question, secret, caller.person.id)),
      rules: pack.questions.map(fileRules).filter((one) => one !== null),
      files: pack.files,
      audit: pack.audit,
      keys: Object.entries(pack.keys).map(([question, { about }]) => ({ question, about })),
    };
  }

  /** What an answer would come to. */
  async tryAnswer(caller: Caller, id: string, questionId: string, answer: Answer): Promise<TriedAnswer> {
    const { request, secret } = await this.requestOf(caller, await this.exercises.find(caller, id));
    const question = request.questions.find((one) => one.id === questionId);
    if (!question) throw notFound();
    const by = await this.compute.run(
      EXERCISE_TASKS.keyOf,
      { ...request, question },
      within(caller, SECONDS),
    );
    const ran = await ranAnswer(this.models, answer, by, AbortSignal.timeout(SECONDS * 1000));
    const who = { secret, question: question.id, id: caller.person.id };
    const result = await this.compute.run(
      EXERCISE_TASKS.mark,
      { question, answer: ran, ...by, who, stepped: false, before: null },
      within(caller, SECONDS),
    );
    return { result };
  }

  private async requestOf({ db, person }: Caller, exercise: ExerciseRecord) {
    const { request } = await fetchDraftRequest(db, this.reserves, exercise, person.id);
    return { request, secret: request.secret };
  }
}
