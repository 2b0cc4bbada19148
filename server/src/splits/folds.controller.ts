import type { FoldConsequences } from '@modest-sieve/core/audit';
import { Body, Controller, Get, Param, ParseUUIDPipe, Post, StreamableFile } from '@nestjs/common';
import { IsOptional, IsUUID } from 'class-validator';
import type { Created, FoldRequest } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { VersionPipe, type VersionAddress } from '../store/version-address.js';
import { Route } from '../platform/access/route.js';
import { IsBody } from '../platform/bodies/nested.js';
import { FoldSets } from './folds.service.js';
import { plainPlan, PlanBody } from './splits.controller.js';

export class FoldBody implements FoldRequest {
  @IsBody(() => PlanBody, 'Give a plan of the folds.') plan: PlanBody;
  @IsOptional() @IsUUID(undefined, { message: 'Choose a split that was kept.' }) splitId: string | null =
    null;
}

@Controller('courses/:course/data-sets/:dataSet')
export class FoldsController {
  constructor(private readonly foldSets: FoldSets) {}

  @Post('fold-preview')
  @Route('instructor', { takes: 'FoldRequest', answers: 'FoldAnswer' })
  preview(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Body() { plan, splitId }: FoldBody,
  ): Promise<FoldConsequences> {
    return this.foldSets.preview(caller, dataSet, { plan: plainPlan(plan), splitId });
  }

  @Post('fold-sets')
  @Route('instructor', { takes: 'FoldRequest', answers: 'Created', status: 201 })
  keep(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Body() { plan, splitId }: FoldBody,
  ): Promise<Created> {
    return this.foldSets.keep(caller, dataSet, { plan: plainPlan(plan), splitId });
  }

  @Get('fold-sets/:foldSet')
  @Route('instructor')
  async table(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Param('foldSet', ParseUUIDPipe) foldSet: string,
  ): Promise<StreamableFile> {
    const { name, csv } = await this.foldSets.table(caller, dataSet, foldSet);
    return new StreamableFile(Buffer.from(csv), {
      type: 'text/csv; charset=utf-8',
      disposition: `attachment; filename="${name}"`,
    });
  }
}
