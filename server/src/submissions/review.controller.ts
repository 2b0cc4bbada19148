import { Body, Controller, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { IsIn, IsNumber, IsString, IsUUID, MaxLength, Min, MinLength, ValidateIf } from 'class-validator';
import type { ChecksAsked, CommentText, MarkAdjustment, SlipVerdictGiven } from '../api/api.js';
import { Exercises } from '../exercises/exercises.service.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Review } from './review.service.js';

export class MarksBody implements MarkAdjustment {
  @ValidateIf(({ marks }: MarksBody) => marks !== null)
  @IsNumber({}, { message: 'Marks are a number.' })
  @Min(0, { message: 'Marks are a number from 0.' })
  marks: number | null;
  @IsString()
  @MinLength(1, { message: 'Say why: the student reads it.' })
  @MaxLength(2000)
  reason: string;
}

export class CommentBody implements CommentText {
  @IsString() @MaxLength(10_000) text: string;
}

export class ChecksBody implements ChecksAsked {
  @ValidateIf(({ submission }: ChecksBody) => submission !== null)
  @IsUUID(undefined, { message: 'The answer is unknown.' })
  submission: string | null;
}

const VERDICTS: readonly SlipVerdictGiven['verdict'][] = ['dismissed', 'named', 'undone'];

export class SlipVerdictBody implements SlipVerdictGiven {
  @IsString() @MaxLength(100) slip: string;
  @ValidateIf(({ field }: SlipVerdictBody) => field !== null)
  @IsString()
  @MaxLength(100)
  field: string | null;
  @IsIn(VERDICTS) verdict: SlipVerdictGiven['verdict'];
}

/** What staff do with answers that were handed in. */
@Controller('courses/:course/exercises/:exercise')
export class ReviewController {
  constructor(
    private readonly exercises: Exercises,
    private readonly review: Review,
  ) {}

  @Put('submissions/:submission/marks')
  @Route('staff', { takes: 'MarkAdjustment', status: 204 })
  async adjust(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('submission', ParseUUIDPipe) submission: string,
    @Body() body: MarksBody,
  ): Promise<void> {
    const exercise = await this.exercises.find(caller, id);
    await this.review.adjust(caller, exercise, submission, body);
  }

  @Put('submissions/:submission/comment')
  @Route('staff', { takes: 'CommentText', status: 204 })
  async comment(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('submission', ParseUUIDPipe) submission: string,
    @Body() body: CommentBody,
  ): Promise<void> {
    await this.review.comment(caller, await this.exercises.find(caller, id), submission, body);
  }

  @Put('submissions/:submission/slips')
  @Route('staff', { takes: 'SlipVerdictGiven', status: 204 })
  async judge(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('submission', ParseUUIDPipe) submission: string,
    @Body() body: SlipVerdictBody,
  ): Promise<void> {
    await this.review.judge(caller, await this.exercises.find(caller, id), submission, body);
  }

  @Put('remarks/:person')
  @Route('staff', { takes: 'CommentText', status: 204 })
  async remark(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('person', ParseUUIDPipe) person: string,
    @Body() body: CommentBody,
  ): Promise<void> {
    await this.review.remark(caller, await this.exercises.find(caller, id), person, body);
  }

  @Post('checks')
  @Route('staff', { takes: 'ChecksAsked', status: 204 })
  async checkAgain(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Body() { submission }: ChecksBody,
  ): Promise<void> {
    await this.review.checkAgain(caller, await this.exercises.find(caller, id), submission);
  }
}
