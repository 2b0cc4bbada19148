import type { Plan, PlanValue } from '@modest-sieve/core/data';
import type { SplitConsequences } from '@modest-sieve/core/audit';
import { Body, Controller, Param, Post } from '@nestjs/common';
import { IsObject, IsString, MaxLength } from 'class-validator';
import type { Created, SplitDraws } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { VersionPipe, type VersionAddress } from '../store/version-address.js';
import { Route } from '../platform/access/route.js';
import { Splits } from './splits.service.js';

/** What the values of a plan may be is said by its kind, in the core's registry, and looked at there. */
export class PlanBody implements Plan {
  @IsString({ message: 'Name the kind of plan.' }) @MaxLength(100) kind: string;
  @IsObject() values: Record<string, PlanValue>;
}

export const plainPlan = ({ kind, values }: PlanBody): Plan => ({ kind, values });

@Controller('courses/:course/data-sets/:dataSet')
export class SplitsController {
  constructor(private readonly splits: Splits) {}

  @Post('split-preview')
  @Route('instructor', { takes: 'SplitPlan', answers: 'SplitConsequences' })
  preview(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Body() plan: PlanBody,
  ): Promise<SplitConsequences> {
    return this.splits.preview(caller, dataSet, plainPlan(plan));
  }

  @Post('split-record')
  @Route('instructor', { takes: 'SplitPlan', answers: 'SplitDraws' })
  record(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Body() plan: PlanBody,
  ): Promise<SplitDraws> {
    return this.splits.record(caller, dataSet, plainPlan(plan));
  }

  @Post('splits')
  @Route('instructor', { takes: 'SplitPlan', answers: 'Created', status: 201 })
  keep(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Body() plan: PlanBody,
  ): Promise<Created> {
    return this.splits.keep(caller, dataSet, plainPlan(plan));
  }
}
