import { Body, Controller, Delete, Get, Param, ParseUUIDPipe, Patch, Post, Put, Query } from '@nestjs/common';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  MaxLength,
  Min,
} from 'class-validator';
import type {
  ArmInfo,
  ArmsRequest,
  CaseAnswer,
  CaseRequest,
  Created,
  EvidenceRows,
  ReferenceRequest,
  RunsLuck,
  RunsLuckRequest,
  TrialAgainst,
  TrialDetail,
  TrialEvidence,
  TrialInfo,
} from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { NameBody } from '../datasets/housekeeping.controller.js';
import { DataSetPipe } from '../store/version-address.js';
import { Route } from '../platform/access/route.js';
import { FamiliesBody, plainScreening, plainSearch, plainTrial, TrialBody } from './trial-bodies.js';
import { TrialLooks } from './trial-looks.service.js';
import { TrialLuck } from './trial-luck.service.js';
import { Trials } from './trials.service.js';

const ROWS: readonly EvidenceRows[] = ['folds', 'training', 'validation', 'held-out'];

class EvidenceQuery {
  @IsIn(ROWS) rows: EvidenceRows;
  @IsOptional() @IsString() @MaxLength(1000) by?: string;
}

export class CaseBody implements CaseRequest {
  @IsObject() cells: Record<string, string>;
}

export class ArmsBody implements ArmsRequest {
  @IsString() @MaxLength(1000) column: string;
  @IsString() @MaxLength(1000) value: string;
  @IsArray() @ArrayMaxSize(10) @IsNumber({}, { each: true }) @Min(0, { each: true }) weights: number[];
}

export class ReferenceBody implements ReferenceRequest {
  @IsBoolean() isReference: boolean;
}

export class RunsLuckBody implements RunsLuckRequest {
  @IsString() @MaxLength(100) metric: string;
}

@Controller('courses/:course/data-sets/:dataSet/trials')
export class TrialsController {
  constructor(
    private readonly trials: Trials,
    private readonly looks: TrialLooks,
    private readonly luck: TrialLuck,
  ) {}

  @Get()
  @Route('instructor', { answers: 'TrialInfo', list: true })
  list(@Calling() caller: Caller, @Param('dataSet', DataSetPipe) dataSet: string): Promise<TrialInfo[]> {
    return this.trials.list(caller, dataSet);
  }

  @Post()
  @Route('instructor', { takes: 'TrialRequest', answers: 'Created', status: 202 })
  run(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Body() { foldSetId, plan }: TrialBody,
  ): Promise<Created> {
    return this.trials.run(caller, dataSet, { foldSetId, plan: plainTrial(plan) });
  }

  @Post('families')
  @Route('instructor', { takes: 'FamiliesRequest', answers: 'Created', list: true, status: 202 })
  runFamilies(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Body() { foldSetId, plan: { features, screening, metric, weight, seed, search } }: FamiliesBody,
  ): Promise<Created[]> {
    const plan = {
      features,
      ...plainScreening(screening),
      metric,
      weight,
      seed,
      ...(search ? { search: plainSearch(search) } : {}),
    };
    return this.trials.runFamilies(caller, dataSet, { foldSetId, plan });
  }

  @Get(':trial')
  @Route('instructor', { answers: 'TrialDetail' })
  detail(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
  ): Promise<TrialDetail> {
    return this.trials.detail(caller, dataSet, trial);
  }

  @Patch(':trial')
  @Route('instructor', { takes: 'Naming', status: 204 })
  rename(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Body() { name }: NameBody,
  ): Promise<void> {
    return this.trials.rename(caller, dataSet, trial, name);
  }

  @Delete(':trial')
  @Route('instructor', { status: 204 })
  remove(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
  ): Promise<void> {
    return this.trials.remove(caller, dataSet, trial);
  }

  @Post(':trial/luck')
  @Route('instructor', { takes: 'RunsLuckRequest', answers: 'RunsLuck' })
  luckOfRuns(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Body() { metric }: RunsLuckBody,
  ): Promise<RunsLuck> {
    return this.luck.ofRuns(caller, dataSet, trial, metric);
  }

  @Get(':trial/evidence')
  @Route('instructor', { answers: 'TrialEvidence', query: EvidenceQuery })
  evidence(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Query() { rows, by }: EvidenceQuery,
  ): Promise<TrialEvidence> {
    return this.looks.evidence(caller, dataSet, trial, rows, by ?? null);
  }

  @Post(':trial/held-out')
  @Route('instructor', { status: 204 })
  lookAtHeldOut(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
  ): Promise<void> {
    return this.looks.lookAtHeldOut(caller, dataSet, trial);
  }

  @Get(':trial/against/:other')
  @Route('instructor', { answers: 'TrialAgainst' })
  compare(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Param('other', ParseUUIDPipe) other: string,
  ): Promise<TrialAgainst> {
    return this.looks.compare(caller, dataSet, trial, other);
  }

  @Post(':trial/case')
  @Route('instructor', { takes: 'CaseRequest', answers: 'CaseAnswer' })
  predictCase(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Body() { cells }: CaseBody,
  ): Promise<CaseAnswer> {
    const texts = Object.entries(cells).filter(([, cell]) => typeof cell === 'string');
    return this.looks.predictCase(caller, dataSet, trial, Object.fromEntries(texts));
  }

  @Post(':trial/arms')
  @Route('instructor', { takes: 'ArmsRequest', answers: 'ArmInfo', list: true })
  arms(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Body() { column, value, weights }: ArmsBody,
  ): Promise<ArmInfo[]> {
    return this.looks.arms(caller, dataSet, trial, { column, value, weights });
  }

  @Put(':trial/reference')
  @Route('instructor', { takes: 'ReferenceRequest', status: 204 })
  setReference(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Body() { isReference }: ReferenceBody,
  ): Promise<void> {
    return this.looks.setReference(caller, dataSet, trial, isReference);
  }
}
