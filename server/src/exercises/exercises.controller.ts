import { FEEDBACK_POLICIES, type FeedbackPolicy, type MarkScheme } from '@modest-sieve/core';
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
} from '@nestjs/common';
import { Type } from 'class-transformer';
import {
  IsIn,
  IsInt,
  IsISO8601,
  IsNumber,
  IsOptional,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import type { Created, ExerciseDetail, ExerciseSettings, ExerciseSummary } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Exercises } from './exercises.service.js';

export class SchemeBody implements MarkScheme {
  @IsNumber() nothing: number;
  @IsNumber() most: number;
  @IsNumber() all: number;
  @IsNumber() mostMarks: number;
  @IsNumber() marks: number;
}

export class ExerciseBody implements ExerciseSettings {
  @IsUUID(undefined, { message: 'Choose a split.' }) splitId: string;
  @IsOptional() @IsUUID(undefined, { message: 'Choose folds that were kept.' }) foldSetId: string | null =
    null;
  @IsString() @MinLength(1, { message: 'Give the exercise a title.' }) @MaxLength(200) title: string;
  @IsString() @MaxLength(20_000) brief: string;
  @IsString() @MaxLength(60) metric: string;
  @ValidateNested() @Type(() => SchemeBody) scheme: SchemeBody;
  @IsInt({ message: 'Attempts are a whole number.' }) @Min(1) @Max(1000) attempts: number;
  @IsIn(['best', 'last']) counts: 'best' | 'last';
  @IsISO8601({ strict: true }, { message: 'The deadline is a date and time.' }) deadline: string;
  @IsIn(FEEDBACK_POLICIES) feedback: FeedbackPolicy;
}

@Controller('courses/:course/exercises')
export class ExercisesController {
  constructor(private readonly exercises: Exercises) {}

  @Get()
  @Route('member', { answers: 'ExerciseSummary', list: true, scope: 'read' })
  list(@Calling() caller: Caller): Promise<ExerciseSummary[]> {
    return this.exercises.list(caller);
  }

  @Post()
  @Route('instructor', { takes: 'ExerciseSettings', answers: 'Created', status: 201 })
  make(@Calling() caller: Caller, @Body() body: ExerciseBody): Promise<Created> {
    return this.exercises.make(caller, body);
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
    return this.exercises.change(caller, id, body);
  }

  @Delete(':exercise')
  @Route('instructor', { status: 204 })
  remove(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<void> {
    return this.exercises.remove(caller, id);
  }

  @Post(':exercise/release')
  @Route('instructor', { status: 202 })
  release(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<void> {
    return this.exercises.release(caller, id);
  }

  @Post(':exercise/return')
  @Route('instructor', { status: 204 })
  return(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<void> {
    return this.exercises.return(caller, id);
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
