import { Body, Controller, Get, Param, ParseUUIDPipe, Put, StreamableFile } from '@nestjs/common';
import type { GradeCategory, GradePlan } from '@modest-sieve/core/assessment';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsNumber,
  IsString,
  IsUUID,
  ValidateNested,
} from 'class-validator';
import type { Gradebook, OwnGrades, SetExcused } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { gradebookCsv, gradebookOneRoster, gradebookWorkbook } from './exports.js';
import { Gradebooks } from './gradebook.service.js';

export class CategoryBody implements GradeCategory {
  @IsString() name: string;
  @IsNumber() weight: number;
  @IsNumber() drop: number;
}

export class WeighedExerciseBody {
  @IsUUID() exercise: string;
  @IsString() category: string;
  @IsNumber() weight: number;
}

/** What its parts must be beyond their types is said by the core. */
export class GradePlanBody implements GradePlan {
  @IsArray() @ValidateNested({ each: true }) @Type(() => CategoryBody) categories: CategoryBody[];
  @IsArray()
  @ArrayMaxSize(1000)
  @ValidateNested({ each: true })
  @Type(() => WeighedExerciseBody)
  exercises: WeighedExerciseBody[];
}

export class ExcusedBody implements SetExcused {
  @IsBoolean() excused: boolean;
}

@Controller('courses/:course')
export class GradebookController {
  constructor(private readonly gradebooks: Gradebooks) {}

  @Get('gradebook')
  @Route('staff', { answers: 'Gradebook' })
  gradebook(@Calling() caller: Caller): Promise<Gradebook> {
    return this.gradebooks.gradebook(caller);
  }

  @Put('gradebook/plan')
  @Route('instructor', { takes: 'GradePlan', status: 204 })
  plan(@Calling() caller: Caller, @Body() body: GradePlanBody): Promise<void> {
    return this.gradebooks.setPlan(caller, body);
  }

  @Put('gradebook/excused/:exercise/:person')
  @Route('instructor', { takes: 'SetExcused', status: 204 })
  excused(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) exercise: string,
    @Param('person', ParseUUIDPipe) person: string,
    @Body() { excused }: ExcusedBody,
  ): Promise<void> {
    return this.gradebooks.setExcused(caller, exercise, person, excused);
  }

  @Get('marks')
  @Route('student', { answers: 'OwnGrades', scope: 'read' })
  own(@Calling() caller: Caller): Promise<OwnGrades> {
    return this.gradebooks.own(caller);
  }

  @Get('gradebook.csv')
  @Route('staff')
  async csv(@Calling() caller: Caller): Promise<StreamableFile> {
    const text = gradebookCsv(await this.gradebooks.gradebook(caller));
    return fileOf(Buffer.from(text, 'utf8'), 'text/csv; charset=utf-8', 'marks.csv');
  }

  @Get('gradebook.xlsx')
  @Route('staff')
  async workbook(@Calling() caller: Caller): Promise<StreamableFile> {
    return fileOf(
      await gradebookWorkbook(await this.gradebooks.gradebook(caller)),
      'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      'marks.xlsx',
    );
  }

  /** Marks as an archive of OneRoster 1.2. */
  @Get('gradebook-oneroster.zip')
  @Route('staff')
  async oneRoster(@Calling() caller: Caller): Promise<StreamableFile> {
    const gradebook = await this.gradebooks.gradebook(caller);
    const zip = gradebookOneRoster(gradebook, caller.courseId, caller.at);
    return fileOf(Buffer.from(zip), 'application/zip', 'marks-oneroster.zip');
  }
}

const fileOf = (contents: Buffer, type: string, name: string) =>
  new StreamableFile(contents, { type, disposition: `attachment; filename="${name}"` });
