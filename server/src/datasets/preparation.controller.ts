import type { Step, PlanValue } from '@modest-sieve/core/data';
import { Body, Controller, Param, Post } from '@nestjs/common';
import { IsBoolean, IsInt, IsObject, IsOptional, IsString, MaxLength, Min } from 'class-validator';
import type { Created, KeepSteps, PrepareAnswer, PrepareRequest } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { VersionPipe, type VersionAddress } from '../store/version-address.js';
import { Route } from '../platform/access/route.js';
import { AreBodies } from '../platform/bodies/nested.js';
import { Preparations } from './preparations.service.js';

const MOST_STEPS = 200;

/** What the values of a step may be is said by its kind, in the core's registry, and looked at there. */
export class StepBody implements Step {
  @IsString() @MaxLength(100) kind: string;
  @IsObject() values: Record<string, PlanValue>;
  @IsOptional() @IsBoolean() off?: boolean;
}

export class KeepStepsBody implements KeepSteps {
  @AreBodies(() => StepBody, MOST_STEPS, `A preparation has at most ${MOST_STEPS} steps.`)
  steps: StepBody[];
}

export class PrepareBody extends KeepStepsBody implements PrepareRequest {
  @IsOptional() @IsInt() @Min(0) chosen: number | null = null;
}

@Controller('courses/:course/data-sets/:dataSet')
export class PreparationController {
  constructor(private readonly preparations: Preparations) {}

  @Post('prepare-preview')
  @Route('instructor', { takes: 'PrepareRequest', answers: 'PrepareAnswer' })
  preview(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Body() { steps, chosen }: PrepareBody,
  ): Promise<PrepareAnswer> {
    return this.preparations.preview(caller, dataSet, steps.map(plain), chosen);
  }

  @Post('versions')
  @Route('instructor', { takes: 'KeepSteps', answers: 'Created', status: 202 })
  keep(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Body() { steps }: KeepStepsBody,
  ): Promise<Created> {
    return this.preparations.keep(caller, dataSet, steps.map(plain));
  }
}

const plain = ({ kind, values, off }: StepBody): Step => ({ kind, values, ...(off ? { off } : {}) });
