import { Body, Controller, Delete, Param, ParseIntPipe, ParseUUIDPipe, Patch, Put } from '@nestjs/common';
import { Transform } from 'class-transformer';
import { IsInt, IsNotEmpty, IsString, Max, MaxLength, Min } from 'class-validator';
import type { CurrentVersion, Naming } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Housekeeping } from './housekeeping.service.js';
import { DataSetPipe } from '../store/version-address.js';

const LONGEST_NAME = 200;
/** Of a version, as addresses have it. */
const LARGEST_NUMBER = 999_999_999;

/** A name that may be empty: what has none is known by when it was saved. */
export class NameBody implements Naming {
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.trim() : value))
  @IsString({ message: 'Give a name.' })
  @MaxLength(LONGEST_NAME, { message: `A name has at most ${LONGEST_NAME} characters.` })
  name: string;
}

export class FullNameBody extends NameBody {
  @IsNotEmpty({ message: 'Give a name.' })
  declare name: string;
}

export class CurrentBody implements CurrentVersion {
  @IsInt({ message: 'Give the number of a version.' }) @Min(1) @Max(LARGEST_NUMBER) version: number;
}

@Controller('courses/:course/data-sets/:dataSet')
export class HousekeepingController {
  constructor(private readonly housekeeping: Housekeeping) {}

  @Patch()
  @Route('instructor', { takes: 'Naming', status: 204 })
  rename(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Body() { name }: FullNameBody,
  ): Promise<void> {
    return this.housekeeping.renameDataSet(caller, dataSet, name);
  }

  @Delete()
  @Route('instructor', { status: 204 })
  remove(@Calling() caller: Caller, @Param('dataSet', DataSetPipe) dataSet: string): Promise<void> {
    return this.housekeeping.removeDataSet(caller, dataSet);
  }

  @Put('current')
  @Route('instructor', { takes: 'CurrentVersion', status: 204 })
  makeCurrent(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Body() { version }: CurrentBody,
  ): Promise<void> {
    return this.housekeeping.makeCurrent(caller, dataSet, version);
  }

  @Delete('versions/:version')
  @Route('instructor', { status: 204 })
  removeVersion(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('version', ParseIntPipe) version: number,
  ): Promise<void> {
    return this.housekeeping.removeVersion(caller, dataSet, version);
  }

  @Patch('splits/:split')
  @Route('instructor', { takes: 'Naming', status: 204 })
  renameSplit(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('split', ParseUUIDPipe) split: string,
    @Body() { name }: NameBody,
  ): Promise<void> {
    return this.housekeeping.renameSplit(caller, dataSet, split, name);
  }

  @Delete('splits/:split')
  @Route('instructor', { status: 204 })
  removeSplit(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('split', ParseUUIDPipe) split: string,
  ): Promise<void> {
    return this.housekeeping.removeSplit(caller, dataSet, split);
  }

  @Patch('fold-sets/:foldSet')
  @Route('instructor', { takes: 'Naming', status: 204 })
  renameFolds(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('foldSet', ParseUUIDPipe) foldSet: string,
    @Body() { name }: NameBody,
  ): Promise<void> {
    return this.housekeeping.renameFolds(caller, dataSet, foldSet, name);
  }

  @Delete('fold-sets/:foldSet')
  @Route('instructor', { status: 204 })
  removeFolds(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('foldSet', ParseUUIDPipe) foldSet: string,
  ): Promise<void> {
    return this.housekeeping.removeFolds(caller, dataSet, foldSet);
  }
}
