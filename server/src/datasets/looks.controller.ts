import { Controller, Get, Param, Query } from '@nestjs/common';
import { Type } from 'class-transformer';
import { IsIn, IsInt, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';
import type {
  ColumnPair,
  Correlations,
  RowPage,
  TableFindings,
  TargetByValue,
  TargetSuggestion,
} from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { VersionPipe, type VersionAddress } from '../store/version-address.js';
import { Route } from '../platform/access/route.js';
import { Looks } from './looks.service.js';

export class PageQuery {
  @Type(() => Number) @IsInt() @Min(0) offset = 0;
  @Type(() => Number) @IsInt() @Min(1) @Max(500) limit = 50;
  @IsOptional() @IsString() @MaxLength(2000) where: string | null = null;
  @IsOptional() @IsString() sort: string | null = null;
  @IsOptional() @IsIn(['ascending', 'descending']) way: 'ascending' | 'descending' = 'ascending';
}

export class ByValueQuery {
  @IsString({ message: 'Name the column.' }) column: string;
}

export class PairQuery {
  @IsString({ message: 'Name the column across.' }) x: string;
  @IsString({ message: 'Name the column upwards.' }) y: string;
}

export class CorrelationsQuery {
  @IsIn(['Pearson', 'Spearman'], { message: 'The measure is Pearson or Spearman.' })
  measure: 'Pearson' | 'Spearman' = 'Pearson';
}

@Controller('courses/:course/data-sets/:dataSet')
export class LooksController {
  constructor(private readonly looks: Looks) {}

  @Get('rows')
  @Route('instructor', { answers: 'RowPage', query: PageQuery })
  rows(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Query() page: PageQuery,
  ): Promise<RowPage> {
    const { where, sort, way } = page;
    return this.looks.rows(caller, dataSet, page, { where, sort, descending: way === 'descending' });
  }

  @Get('findings')
  @Route('instructor', { answers: 'TableFindings' })
  findings(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
  ): Promise<TableFindings> {
    return this.looks.findings(caller, dataSet);
  }

  @Get('by-value')
  @Route('instructor', { answers: 'TargetByValue', query: ByValueQuery })
  byValue(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Query() { column }: ByValueQuery,
  ): Promise<TargetByValue> {
    return this.looks.byValue(caller, dataSet, column);
  }

  @Get('pair')
  @Route('instructor', { answers: 'ColumnPair', query: PairQuery })
  pair(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Query() { x, y }: PairQuery,
  ): Promise<ColumnPair> {
    return this.looks.pair(caller, dataSet, x, y);
  }

  @Get('correlations')
  @Route('instructor', { answers: 'Correlations', query: CorrelationsQuery })
  correlations(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Query() { measure }: CorrelationsQuery,
  ): Promise<Correlations> {
    return this.looks.correlations(caller, dataSet, measure);
  }

  @Get('suggestion')
  @Route('instructor', { answers: 'TargetSuggestion' })
  suggest(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Query('target') target: string,
  ): Promise<TargetSuggestion> {
    return this.looks.suggest(caller, dataSet, target);
  }
}
