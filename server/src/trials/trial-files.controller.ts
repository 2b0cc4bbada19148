import { starterForm, STARTERS } from '@modest-sieve/core/assessment';
import {
  Controller,
  Get,
  Param,
  ParseUUIDPipe,
  Post,
  StreamableFile,
  UploadedFile,
  UseInterceptors,
} from '@nestjs/common';
import { ApiBody, ApiConsumes } from '@nestjs/swagger';
import { Calling, type Caller } from '../platform/access/access.js';
import { DataSetPipe } from '../store/version-address.js';
import { Route } from '../platform/access/route.js';
import { FILE_FORM, uploadedBytes, UploadedTo } from '../platform/files/upload.js';
import { TrialLooks } from './trial-looks.service.js';

/** The largest table that a run predicts, in bytes. */
const LARGEST_PREDICTED = 64 * 1024 * 1024;

/** What a run gives as files. */
@Controller('courses/:course/data-sets/:dataSet/trials')
export class TrialFilesController {
  constructor(private readonly looks: TrialLooks) {}

  @Get(':trial/starter/:form')
  @Route('instructor')
  async starter(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Param('form') form: string,
  ): Promise<StreamableFile> {
    const known = starterForm(form);
    const { file, type } = STARTERS[known];
    const text = await this.looks.starter(caller, dataSet, trial, known);
    return new StreamableFile(Buffer.from(text), { type, disposition: `attachment; filename="${file}"` });
  }

  @Get(':trial/model/:format')
  @Route('instructor')
  async savedModel(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @Param('format') format: string,
  ): Promise<StreamableFile> {
    const bytes = await this.looks.savedModel(caller, dataSet, trial, format);
    return new StreamableFile(bytes, {
      type: 'application/octet-stream',
      disposition: `attachment; filename="model.${format}"`,
    });
  }

  @Post(':trial/predictions')
  @Route('instructor')
  @UseInterceptors(UploadedTo(LARGEST_PREDICTED))
  @ApiConsumes('multipart/form-data')
  @ApiBody(FILE_FORM)
  async predictTable(
    @Calling() caller: Caller,
    @Param('dataSet', DataSetPipe) dataSet: string,
    @Param('trial', ParseUUIDPipe) trial: string,
    @UploadedFile() file: Express.Multer.File,
  ): Promise<StreamableFile> {
    const csv = await this.looks.predictTable(caller, dataSet, trial, await uploadedBytes(file));
    return new StreamableFile(Buffer.from(csv), {
      type: 'text/csv; charset=utf-8',
      disposition: 'attachment; filename="predictions.csv"',
    });
  }
}
