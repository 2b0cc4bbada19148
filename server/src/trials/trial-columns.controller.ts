import { Body, Controller, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsOptional, IsString, MaxLength } from 'class-validator';
import type { ColumnDependence, ColumnImportance, DependenceRequest, ImportanceRequest } from '../api/api.js';
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
}
