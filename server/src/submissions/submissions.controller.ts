import { randomUUID } from 'node:crypto';
import { LARGEST_PREDICTIONS } from '@modest-sieve/core';
import {
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
import { IsInt, Max, Min } from 'class-validator';
import type { Response } from 'express';
import type { ClassView, ReceiptInfo, SubmissionInfo } from '../api/api.js';
import { Exercises } from '../exercises/exercises.service.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { notFound } from '../platform/errors/problem.js';
import { fetchFile } from '../platform/files/files.js';
import { FILE_FORM, uploadedBytes, UploadedTo } from '../platform/files/upload.js';
import { classView } from './class-view.js';
import { Submissions } from './submissions.service.js';

export class WaitQuery {
  /** Seconds to wait for the check, so that the answer is the receipt; else it says that the file waits. */
  @Type(() => Number) @IsInt() @Min(0) @Max(60) wait = 0;
}

@Controller('courses/:course/exercises/:exercise')
export class SubmissionsController {
  constructor(
    private readonly exercises: Exercises,
    private readonly submissions: Submissions,
  ) {}

  @Post('submissions')
  @Route('student', { answers: 'ReceiptInfo', status: 202, scope: 'hand-in' })
  @ApiConsumes('multipart/form-data')
  @ApiHeader({ name: 'Idempotency-Key', required: false })
  @ApiResponse({ status: 200, schema: { $ref: '#/components/schemas/ReceiptInfo' } })
  @ApiBody(FILE_FORM)
  @UseInterceptors(UploadedTo(LARGEST_PREDICTIONS))
  async handIn(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) exerciseId: string,
    @UploadedFile() file: Express.Multer.File,
    @Query() { wait }: WaitQuery,
    @Res({ passthrough: true }) response: Response,
    @Headers('idempotency-key') key?: string,
  ): Promise<ReceiptInfo> {
    const { name, bytes } = await uploadedBytes(file);
    const exercise = await this.exercises.find(caller, exerciseId);
    const idempotencyKey = key?.slice(0, 100) ?? randomUUID();
    const { id } = await this.submissions.handIn(caller, exercise, { fileName: name, bytes, idempotencyKey });
    const receipt = await this.submissions.settled(caller, exerciseId, id, wait);
    if (receipt.outcome !== 'waiting') response.status(200);
    return receipt;
  }

  @Get('receipts')
  @Route('student', { answers: 'ReceiptInfo', list: true, scope: 'read' })
  async receipts(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
  ): Promise<ReceiptInfo[]> {
    await this.exercises.find(caller, id);
    return this.submissions.receipts(caller, id);
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
  @Route('staff', { answers: 'ClassView', scope: 'read' })
  async class(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<ClassView> {
    const exercise = await this.exercises.find(caller, id);
    return classView(caller, exercise, await this.submissions.forStaff(caller, id));
  }

  @Get('submissions/:submission')
  @Route('staff', { answers: 'SubmissionInfo', scope: 'read' })
  async submission(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('submission', ParseUUIDPipe) submission: string,
  ): Promise<SubmissionInfo> {
    await this.exercises.find(caller, id);
    const [found] = await this.submissions.forStaff(caller, id, submission);
    if (!found) throw notFound();
    return found;
  }

  @Get('submissions/:submission/file')
  @Route('staff', { scope: 'read' })
  async file(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('submission', ParseUUIDPipe) submission: string,
  ): Promise<StreamableFile> {
    const { sha256 } = await this.submission(caller, id, submission);
    return new StreamableFile(await fetchFile(caller.db, 'public', sha256), {
      type: 'application/octet-stream',
      disposition: `attachment; filename="${submission}.csv"`,
    });
  }
}
