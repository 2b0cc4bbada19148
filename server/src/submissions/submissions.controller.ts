import { randomUUID } from 'node:crypto';
import {
  Body,
  Controller,
  Get,
  Headers,
  Param,
  ParseUUIDPipe,
  Post,
  Query,
  Res,
  StreamableFile,
  UploadedFile,
  UseInterceptors,
} from '@nestjs/common';
import { ApiBody, ApiConsumes, ApiHeader, ApiResponse } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, IsString, IsUUID, Max, MaxLength, Min } from 'class-validator';
import type { Response } from 'express';
import type {
  AnswerEvidenceInfo,
  ClassAnswersInfo,
  ClassView,
  OpenedSubmission,
  LikenessInfo,
  ReceiptInfo,
  ReceiptPage,
  WearInfo,
} from '../api/api.js';
import { ANSWER_FORM, answerOf, AnswerBody } from '../exercises/answer.js';
import { Exercises } from '../exercises/exercises.service.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { notFound, Problem } from '../platform/errors/problem.js';
import { fetchFile } from '../platform/files/files.js';
import { HandInFile } from './hand-in-file.js';
import { AnswersOfClass } from './class-answers.service.js';
import { classView } from './class-view.js';
import { remarkOn } from './comments.js';
import { Submissions } from './submissions.service.js';
import { WearGauge } from './wear.service.js';

export class HandInQuery {
  /** The question that is answered; it may be left out where there is but one. */
  @IsOptional() @IsString() @MaxLength(20) question: string | null = null;
  /** Seconds to wait for the check, so that the answer is the receipt; else it says that the file waits. */
  @Type(() => Number) @IsInt() @Min(0) @Max(60) wait = 0;
}

export class ReceiptsQuery {
  /** The oldest receipt that the caller has. */
  @IsOptional() @IsUUID() before?: string;
}

@Controller('courses/:course/exercises/:exercise')
export class SubmissionsController {
  constructor(
    private readonly exercises: Exercises,
    private readonly submissions: Submissions,
    private readonly gauge: WearGauge,
    private readonly answersOfClass: AnswersOfClass,
  ) {}

  @Post('submissions')
  @Route('student', { answers: 'ReceiptInfo', status: 202, scope: 'hand-in', query: HandInQuery })
  @ApiConsumes('multipart/form-data')
  @ApiHeader({ name: 'Idempotency-Key', required: false })
  @ApiResponse({ status: 200, schema: { $ref: '#/components/schemas/ReceiptInfo' } })
  @ApiBody(ANSWER_FORM)
  @UseInterceptors(HandInFile)
  async handIn(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) exerciseId: string,
    @UploadedFile() file: Express.Multer.File | undefined,
    @Body() body: AnswerBody,
    @Query() { question, wait }: HandInQuery,
    @Res({ passthrough: true }) response: Response,
    @Headers('idempotency-key') key?: string,
  ): Promise<ReceiptInfo> {
    const answer = await answerOf(file, body);
    const exercise = await this.exercises.find(caller, exerciseId);
    const idempotencyKey = key?.slice(0, 100) ?? randomUUID();
    const { id } = await this.submissions.handIn(caller, exercise, { question, answer, idempotencyKey });
    const receipt = await this.submissions.settled(caller, exerciseId, id, wait);
    if (receipt.outcome !== 'waiting') response.status(200);
    return receipt;
  }

  @Get('receipts')
  @Route('student', { answers: 'ReceiptPage', scope: 'read', query: ReceiptsQuery })
  async receipts(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Query() { before }: ReceiptsQuery,
  ): Promise<ReceiptPage> {
    await this.exercises.find(caller, id);
    return this.submissions.receipts(caller, id, before ?? null);
  }

  @Get('receipts/:submission')
  @Route('student', { answers: 'ReceiptInfo', scope: 'read' })
  receipt(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('submission', ParseUUIDPipe) submission: string,
  ): Promise<ReceiptInfo> {
    return this.submissions.receipt(caller, id, submission);
  }

  @Get('class')
  @Route('staff', { answers: 'ClassView' })
  async class(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<ClassView> {
    const exercise = await this.exercises.find(caller, id);
    return classView(caller, exercise, await this.submissions.forStaff(caller, exercise));
  }

  @Get('class/:question/answers')
  @Route('staff', { answers: 'ClassAnswersInfo' })
  async classAnswers(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('question') question: string,
  ): Promise<ClassAnswersInfo> {
    return this.answersOfClass.find(caller, await this.exercises.find(caller, id), question);
  }

  @Get('class/:question/likeness')
  @Route('staff', { answers: 'LikenessInfo' })
  async likeness(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('question') question: string,
  ): Promise<LikenessInfo> {
    return this.answersOfClass.likeness(caller, await this.exercises.find(caller, id), question);
  }

  @Get('wear/:question')
  @Route('staff', { answers: 'WearInfo' })
  async wear(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('question') question: string,
  ): Promise<WearInfo> {
    return this.gauge.measure(caller, await this.exercises.find(caller, id), question);
  }

  @Get('submissions/:submission')
  @Route('staff', { answers: 'OpenedSubmission' })
  async submission(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('submission', ParseUUIDPipe) submission: string,
  ): Promise<OpenedSubmission> {
    const exercise = await this.exercises.find(caller, id);
    const [found] = await this.submissions.forStaff(caller, exercise, { id: submission });
    if (!found) throw notFound();
    return {
      ...found,
      sheet: await this.exercises.sheetFor(caller, exercise, found),
      remark: await remarkOn(caller.db, exercise.id, found.person.id),
    };
  }

  @Get('submissions/:submission/evidence')
  @Route('staff', { answers: 'AnswerEvidenceInfo' })
  async evidence(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('submission', ParseUUIDPipe) submission: string,
  ): Promise<AnswerEvidenceInfo> {
    const exercise = await this.exercises.find(caller, id);
    const [found] = await this.submissions.forStaff(caller, exercise, { id: submission });
    if (!found) throw notFound();
    return { evidence: await this.answersOfClass.evidence(caller, exercise, found) };
  }

  @Get('submissions/:submission/file')
  @Route('staff')
  async file(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('submission', ParseUUIDPipe) submission: string,
  ): Promise<StreamableFile> {
    return fileOf(caller, await this.submission(caller, id, submission));
  }

  @Get('receipts/:submission/file')
  @Route('student', { scope: 'read' })
  async ownFile(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('submission', ParseUUIDPipe) submission: string,
  ): Promise<StreamableFile> {
    return fileOf(caller, await this.submissions.receipt(caller, id, submission));
  }
}

/** The file of a submission, as it came. */
async function fileOf({ db }: Caller, { id, sha256, fileName }: ReceiptInfo): Promise<StreamableFile> {
  if (sha256 === null) throw notFound();
  const ending = /\.zip$/i.test(fileName ?? '') ? 'zip' : 'csv';
  const kept: unknown[] = await db.query('SELECT 1 FROM file WHERE sha256 = $1', [sha256]);
  if (kept.length === 0)
    throw new Problem(
      404,
      'file-gone',
      'The file is not kept any more: one that failed its checks is kept for a day.',
    );
  return new StreamableFile(await fetchFile(db, 'public', sha256), {
    type: 'application/octet-stream',
    disposition: `attachment; filename="${id}.${ending}"`,
  });
}
