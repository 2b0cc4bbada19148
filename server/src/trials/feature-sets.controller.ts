import { Body, Controller, Delete, Get, Param, ParseUUIDPipe, Put } from '@nestjs/common';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsString, MaxLength } from 'class-validator';
import type { FeatureSetInfo, FeatureSetRequest } from '../api/api.js';
import { FullNameBody } from '../datasets/housekeeping.controller.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { DataSetPipe } from '../store/version-address.js';
import { FeatureSets } from './feature-sets.service.js';

export class FeatureSetBody extends FullNameBody implements FeatureSetRequest {
  @IsArray()
  @ArrayMinSize(1, { message: 'A feature set has at least one feature.' })
  @ArrayMaxSize(5000)
  @IsString({ each: true })
  @MaxLength(1000, { each: true })
  features: string[];
}

/** Features of a data set that are saved by name. */
@Controller('courses/:course/data-sets/:dataSet/feature-sets')
export class FeatureSetsController {
  constructor(private readonly sets: FeatureSets) {}

  @Get()
  @Route('instructor', { answers: 'FeatureSetInfo', list: true })
  list(@Calling() caller: Caller, @Param('dataSet', DataSetPipe) dataSet: string): Promise<FeatureSetInfo[]> {
    return this.sets.list(caller, dataSet);
  }

  @Put()
  @Route('instructor', { takes: 'FeatureSetRequest', status: 204 })
  save(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Body() { name, features }: FeatureSetBody,
  ): Promise<void> {
    return this.sets.save(caller, dataSet, { name, features });
  }

  @Delete(':featureSet')
  @Route('instructor', { status: 204 })
  remove(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('featureSet', ParseUUIDPipe) featureSet: string,
  ): Promise<void> {
    return this.sets.remove(caller, dataSet, featureSet);
  }
}
