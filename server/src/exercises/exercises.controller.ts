import {
  Body,
  Controller,
  Delete,
  Get,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  StreamableFile,
  UploadedFile,
  UseInterceptors,
} from '@nestjs/common';
import { ApiBody, ApiConsumes } from '@nestjs/swagger';
import type {
  Created,
  ExerciseDetail,
  ExercisePreview,
  ExerciseSummary,
  TriedAnswer,
  FileRules,
} from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { UploadedTo } from '../platform/files/upload.js';
import { ANSWER_FORM, answerOf, AnswerBody } from './answer.js';
import { ExerciseBody, ReleaseBody, settingsOf } from './exercise.dto.js';
import { Exercises } from './exercises.service.js';
import { Tries } from './tries.service.js';

/** Of a file that an instructor tries on a draft, whose rules are not made yet. */
const LARGEST_TRIED = 64 * 1024 * 1024;

@Controller('courses/:course/exercises')
export class ExercisesController {
  constructor(
    private readonly exercises: Exercises,
    private readonly tries: Tries,
  ) {}

  @Get()
  @Route('member', { answers: 'ExerciseSummary', list: true, scope: 'read' })
  list(@Calling() caller: Caller): Promise<ExerciseSummary[]> {
    return this.exercises.list(caller);
  }

  @Post()
  @Route('instructor', { takes: 'ExerciseSettings', answers: 'Created', status: 201 })
  make(@Calling() caller: Caller, @Body() body: ExerciseBody): Promise<Created> {
    return this.exercises.make(caller, settingsOf(body));
  }

  @Get(':exercise')
  @Route('member', { answers: 'ExerciseDetail', scope: 'read' })
  detail(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<ExerciseDetail> {
    return this.exercises.detail(caller, id);
  }

  @Put(':exercise')
  @Route('instructor', { takes: 'ExerciseSettings', status: 204 })
  change(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Body() body: ExerciseBody,
  ): Promise<void> {
    return this.exercises.change(caller, id, settingsOf(body));
  }

  @Delete(':exercise')
  @Route('instructor', { status: 204 })
  remove(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<void> {
    return this.exercises.remove(caller, id);
  }

  @Get(':exercise/preview')
  @Route('instructor', { answers: 'ExercisePreview' })
  preview(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<ExercisePreview> {
    return this.tries.preview(caller, id);
  }

  @Post(':exercise/tries/:question')
  @Route('instructor', { answers: 'TriedAnswer' })
  @ApiConsumes('multipart/form-data')
  @ApiBody(ANSWER_FORM)
  @UseInterceptors(UploadedTo(LARGEST_TRIED))
  async try(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('question') question: string,
    @UploadedFile() file: Express.Multer.File | undefined,
    @Body() body: AnswerBody,
  ): Promise<TriedAnswer> {
    return this.tries.tryAnswer(caller, id, question, await answerOf(file, body));
  }

  @Post(':exercise/release')
  @Route('instructor', { takes: 'ReleaseRequest', status: 202 })
  release(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Body() body?: ReleaseBody,
  ): Promise<void> {
    return this.exercises.release(caller, id, body?.reason ?? '');
  }

  @Get(':exercise/questions/:question/rules')
  @Route('member', { answers: 'FileRules', scope: 'read' })
  rules(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('question') question: string,
  ): Promise<FileRules> {
    return this.exercises.rulesOf(caller, id, question);
  }

  @Get(':exercise/pack')
  @Route('member', { scope: 'read' })
  async pack(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
  ): Promise<StreamableFile> {
    const { zip, title } = await this.exercises.pack(caller, id);
    const name =
      title
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^-|-$/g, '') || 'pack';
    return new StreamableFile(zip, {
      type: 'application/zip',
      disposition: `attachment; filename="${name}.zip"`,
    });
  }
}
