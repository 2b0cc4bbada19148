import { Body, Controller, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { SELECTION_WAYS, type SelectionWay } from '@modest-sieve/core/evaluation';
import { SCREENS, type ScreenBy } from '@modest-sieve/core/models';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import type {
  ColumnDependence,
  ColumnImportance,
  ColumnScreening,
  DependenceRequest,
  FeatureSelection,
  ImportanceRequest,
  ScreeningRequest,
  SelectionRequest,
} from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { DataSetPipe } from '../store/version-address.js';
import { TrialColumns } from './trial-columns.service.js';

export class ImportanceBody implements ImportanceRequest {
  @IsString() @MaxLength(100) metric: string;
}

export class DependenceBody implements DependenceRequest {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(2) @IsString({ each: true }) columns: string[];
  @IsOptional() @IsString() @MaxLength(1000) label: string | null = null;
}

export class ScreeningBody implements ScreeningRequest {
  @IsIn(SCREENS) by: ScreenBy;
  @IsInt() @Min(1) @Max(5000) keep: number;
  @IsString() @MaxLength(100) metric: string;
}

export class SelectionBody implements SelectionRequest {
  @IsIn(SELECTION_WAYS) way: SelectionWay;
  @IsInt() @Min(1) @Max(5000) most: number;
  @IsString() @MaxLength(100) metric: string;
}

/** What the features of a run do in its model. */
@Controller('courses/:course/data-sets/:dataSet/trials')
export class TrialColumnsController {
  constructor(private readonly columns: TrialColumns) {}

  @Post(':trial/importance')
  @Route('instructor', { takes: 'ImportanceRequest', answers: 'ColumnImportance', list: true })
  importance(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Body() { metric }: ImportanceBody,
  ): Promise<ColumnImportance[]> {
    return this.columns.importance(caller, dataSet, trial, metric);
  }

  @Post(':trial/dependence')
  @Route('instructor', { takes: 'DependenceRequest', answers: 'ColumnDependence' })
  dependence(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Body() { columns, label }: DependenceBody,
  ): Promise<ColumnDependence> {
    return this.columns.dependence(caller, dataSet, trial, { columns, label });
  }

  @Post(':trial/screening')
  @Route('instructor', { takes: 'ScreeningRequest', answers: 'ColumnScreening' })
  screening(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Body() { by, keep, metric }: ScreeningBody,
  ): Promise<ColumnScreening> {
    return this.columns.screening(caller, dataSet, trial, { by, keep, metric });
  }

  @Post(':trial/selection')
  @Route('instructor', { takes: 'SelectionRequest', answers: 'FeatureSelection' })
  selection(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Body() { way, most, metric }: SelectionBody,
  ): Promise<FeatureSelection> {
    return this.columns.selection(caller, dataSet, trial, { way, most, metric });
  }
}
