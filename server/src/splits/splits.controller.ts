import { LARGEST_SEED, type SplitConsequences, type SplitPlan } from '@modest-sieve/core';
import { Body, Controller, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, IsString, Max, Min, ValidateNested } from 'class-validator';
import type { Created } from '../api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Splits } from './splits.service.js';

export class SharesBody {
  @IsInt() @Min(0) @Max(100) training: number;
  @IsInt() @Min(0) @Max(100) validation: number;
  @IsInt() @Min(0) @Max(100) heldout: number;
}

export class PlanBody implements SplitPlan {
  @ValidateNested() @Type(() => SharesBody) shares: SharesBody;
  @IsOptional() @IsString() stratify: string | null = null;
  @IsOptional() @IsString() group: string | null = null;
  @IsInt({ message: 'A seed is a whole number.' }) @Min(0) @Max(LARGEST_SEED) seed: number;
}

@Controller('courses/:course/data-sets/:dataSet')
export class SplitsController {
  constructor(private readonly splits: Splits) {}

  @Post('split-preview')
  @Route('instructor', { takes: 'SplitPlan', answers: 'SplitConsequences' })
  preview(
    @Calling() caller: Caller,
    @Param('dataSet', ParseUUIDPipe) dataSet: string,
    @Body() plan: PlanBody,
  ): Promise<SplitConsequences> {
    return this.splits.preview(caller, dataSet, plan);
  }

  @Post('splits')
  @Route('instructor', { takes: 'SplitPlan', answers: 'Created', status: 201 })
  keep(
    @Calling() caller: Caller,
    @Param('dataSet', ParseUUIDPipe) dataSet: string,
    @Body() plan: PlanBody,
  ): Promise<Created> {
    return this.splits.keep(caller, dataSet, plan);
  }
}
