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
  CorrectionInfo,
  Created,
  ExerciseDetail,
  ExercisePreview,
  ExerciseSummary,
  TriedAnswer,
} from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { UploadedTo } from '../platform/files/upload.js';
import { ANSWER_FORM, answerOf, AnswerBody } from './answer.js';
import {
  AmendmentBody,
  CorrectionAppliedBody,
  CorrectionBody,
  correctionOf,
  ExerciseBody,
  OwnDeadlineBody,
  ReleaseBody,
  settingsOf,
} from './exercise.dto.js';
import { Corrections } from './corrections.service.js';
import { Exercises } from './exercises.service.js';
import { ReleasedExercises } from './released.service.js';
import { Tries } from './tries.service.js';

/** Of a file that an instructor tries on a draft, whose rules are not made yet. */
const LARGEST_TRIED = 64 * 1024 * 1024;

@Controller('courses/:course/exercises')
export class ExercisesController {
  constructor(
    private readonly exercises: Exercises,
    private readonly released: ReleasedExercises,
    private readonly corrections: Corrections,
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

  @Get(':exercise/file')
  @Route('instructor')
  async file(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
  ): Promise<StreamableFile> {
    return jsonFile(await this.released.asFile(caller, id), 'exercise.json');
  }

  @Get(':exercise/keys')
  @Route('instructor')
  async keys(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
  ): Promise<StreamableFile> {
    return jsonFile(await this.released.keysAsFile(caller, id), 'keys.json');
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

  @Post(':exercise/withdraw')
  @Route('instructor', { status: 204 })
  withdraw(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<void> {
    return this.released.withdraw(caller, id);
  }

  @Put(':exercise/amendment')
  @Route('instructor', { takes: 'Amendment', status: 204 })
  amend(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Body() body: AmendmentBody,
  ): Promise<void> {
    return this.released.amend(caller, id, body);
  }

  @Put(':exercise/reopening')
  @Route('instructor', { takes: 'Amendment', status: 204 })
  reopen(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Body() body: AmendmentBody,
  ): Promise<void> {
    return this.released.reopen(caller, id, body);
  }

  @Get(':exercise/correction')
  @Route('instructor', { answers: 'CorrectionInfo' })
  correction(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
  ): Promise<CorrectionInfo> {
    return this.corrections.show(caller, id);
  }

  @Put(':exercise/correction')
  @Route('instructor', { takes: 'Correction', status: 202 })
  correct(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Body() body: CorrectionBody,
  ): Promise<void> {
    return this.corrections.begin(caller, id, correctionOf(body));
  }

  @Post(':exercise/correction/apply')
  @Route('instructor', { takes: 'CorrectionApplied', status: 204 })
  applyCorrection(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Body() body: CorrectionAppliedBody,
  ): Promise<void> {
    return this.corrections.apply(caller, id, body);
  }

  @Delete(':exercise/correction')
  @Route('instructor', { status: 204 })
  dropCorrection(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<void> {
    return this.corrections.drop(caller, id);
  }

  @Put(':exercise/deadlines/:person')
  @Route('instructor', { takes: 'OwnDeadline', status: 204 })
  extend(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('person', ParseUUIDPipe) person: string,
    @Body() { deadline }: OwnDeadlineBody,
  ): Promise<void> {
    return this.released.extend(caller, id, person, deadline);
  }

  @Post(':exercise/return')
  @Route('instructor', { status: 204 })
  return(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<void> {
    return this.released.return(caller, id);
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

const jsonFile = (text: string, name: string): StreamableFile =>
  new StreamableFile(Buffer.from(text, 'utf8'), {
    type: 'application/json',
    disposition: `attachment; filename="${name}"`,
  });
