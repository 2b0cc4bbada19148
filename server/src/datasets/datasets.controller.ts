import { COMBINATIONS, TASKS, type Combination, type Roles } from '@modest-sieve/core/data';
import {
  Body,
  Controller,
  Delete,
  Get,
  Param,
  ParseUUIDPipe,
  Patch,
  Post,
  Put,
  Query,
  StreamableFile,
  UploadedFile,
  UseInterceptors,
} from '@nestjs/common';
import { ApiBody, ApiConsumes } from '@nestjs/swagger';
import {
  IsArray,
  IsIn,
  IsOptional,
  IsString,
  MaxLength,
  Validate,
  ValidateIf,
  ValidatorConstraint,
  type ValidatorConstraintInterface,
} from 'class-validator';
import type { ColumnDescriptions, Created, DataSetDetail, DataSetList, SheetChoice } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { DataSetPipe, VersionPipe, type VersionAddress } from '../store/version-address.js';
import { Route } from '../platform/access/route.js';
import { EXPORT_FORMATS, type ExportFormat } from './table.tasks.js';
import { FILE_FORM, uploadedBytes, UploadedTo } from '../platform/files/upload.js';
import { DataSets } from './datasets.service.js';

const LARGEST_TABLE = 200 * 1024 * 1024;

export class RolesBody implements Roles {
  @IsString({ message: 'Name the target.' }) @MaxLength(500) target: string;
  @IsIn(TASKS, { message: `The task is one of ${TASKS.join(', ')}.` }) task: Roles['task'];
  @IsOptional() @IsString() positive: string | null = null;
  @IsOptional() @IsString() identifier: string | null = null;
  @IsOptional() @IsString() group: string | null = null;
  @IsOptional() @IsString() time: string | null = null;
  @IsOptional() @IsString() weight: string | null = null;
  @IsArray() @IsString({ each: true }) withheld: string[] = [];
}

const LONGEST_DESCRIPTION = 1000;

@ValidatorConstraint({ name: 'isDescriptions' })
class IsDescriptions implements ValidatorConstraintInterface {
  validate(value: unknown): boolean {
    return (
      typeof value === 'object' &&
      value !== null &&
      Object.values(value).every((text) => typeof text === 'string' && text.length <= LONGEST_DESCRIPTION)
    );
  }
  defaultMessage(): string {
    return `Descriptions are texts of at most ${LONGEST_DESCRIPTION} characters by the names of columns.`;
  }
}

export class DescriptionsBody implements ColumnDescriptions {
  @Validate(IsDescriptions) descriptions: Record<string, string>;
}

export class SheetBody implements SheetChoice {
  @IsString({ message: 'Name the sheet.' }) @MaxLength(500) sheet: string;
}

export class CombineQuery {
  @IsOptional()
  @IsIn(COMBINATIONS, { message: `A file is put to the table by one of ${COMBINATIONS.join(', ')}.` })
  how: Combination | null = null;
  @ValidateIf(({ how }: CombineQuery) => how === 'join')
  @IsString({ message: 'Name the column to join by.' })
  @MaxLength(500)
  key: string | null = null;
}

export class ExportQuery {
  @IsIn(EXPORT_FORMATS, { message: `The format is one of ${EXPORT_FORMATS.join(', ')}.` })
  format: ExportFormat = 'csv';
}

@Controller('courses/:course/data-sets')
export class DataSetsController {
  constructor(private readonly dataSets: DataSets) {}

  @Get()
  @Route('instructor', { answers: 'DataSetList' })
  list(@Calling() caller: Caller): Promise<DataSetList> {
    return this.dataSets.list(caller);
  }

  @Post()
  @Route('instructor', { answers: 'Created', status: 202 })
  @ApiConsumes('multipart/form-data')
  @ApiBody(FILE_FORM)
  @UseInterceptors(UploadedTo(LARGEST_TABLE))
  async import(@Calling() caller: Caller, @UploadedFile() file: Express.Multer.File): Promise<Created> {
    const { name, bytes } = await uploadedBytes(file);
    return this.dataSets.import(caller, name, bytes, null);
  }

  @Post(':dataSet/raw')
  @Route('instructor', { answers: 'Created', status: 202, query: CombineQuery })
  @ApiConsumes('multipart/form-data')
  @ApiBody(FILE_FORM)
  @UseInterceptors(UploadedTo(LARGEST_TABLE))
  async importInto(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @UploadedFile() file: Express.Multer.File,
    @Query() { how, key }: CombineQuery,
  ): Promise<Created> {
    const { name, bytes } = await uploadedBytes(file);
    return this.dataSets.import(caller, name, bytes, dataSet, {
      ...(how === null ? {} : { combination: how }),
      ...(key === null ? {} : { key }),
    });
  }

  @Post('imports/:import')
  @Route('instructor', { takes: 'SheetChoice', answers: 'Created', status: 202 })
  chooseSheet(
    @Calling() caller: Caller,
    @Param('import', ParseUUIDPipe) importId: string,
    @Body() { sheet }: SheetBody,
  ): Promise<Created> {
    return this.dataSets.chooseSheet(caller, importId, sheet);
  }

  @Delete('imports/:import')
  @Route('instructor', { status: 204 })
  dismiss(@Calling() caller: Caller, @Param('import', ParseUUIDPipe) importId: string): Promise<void> {
    return this.dataSets.dismiss(caller, importId);
  }

  @Get(':dataSet')
  @Route('instructor', { answers: 'DataSetDetail' })
  detail(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
  ): Promise<DataSetDetail> {
    return this.dataSets.detail(caller, dataSet);
  }

  @Get(':dataSet/table')
  @Route('instructor', { query: ExportQuery })
  async export(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Query() { format }: ExportQuery,
  ): Promise<StreamableFile> {
    const { name, bytes } = await this.dataSets.export(caller, dataSet, format);
    return new StreamableFile(bytes, {
      type: 'application/octet-stream',
      disposition: `attachment; filename="${name}"`,
    });
  }

  @Put(':dataSet/roles')
  @Route('instructor', { takes: 'Roles', status: 204 })
  setRoles(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Body() roles: RolesBody,
  ): Promise<void> {
    const { target, task, positive, identifier, group, time, weight, withheld } = roles;
    return this.dataSets.setRoles(caller, dataSet, {
      target,
      task,
      positive,
      identifier,
      group,
      time,
      weight,
      withheld,
    });
  }

  @Patch(':dataSet/descriptions')
  @Route('instructor', { takes: 'ColumnDescriptions', status: 204 })
  describe(
    @Calling() caller: Caller,
    @Param('dataSet', VersionPipe) dataSet: VersionAddress,
    @Body() { descriptions }: DescriptionsBody,
  ): Promise<void> {
    return this.dataSets.describe(caller, dataSet, descriptions);
  }
}
