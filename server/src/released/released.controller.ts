import {
  Body,
  Controller,
  Delete,
  Get,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  StreamableFile,
} from '@nestjs/common';
import type { CorrectionInfo } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Corrections } from './corrections.service.js';
import {
  AmendmentBody,
  CorrectionAppliedBody,
  CorrectionBody,
  correctionOf,
  OwnDeadlineBody,
} from './released.dto.js';
import { ReleasedExercises } from './released.service.js';

/** What instructors do to an exercise that students have. */
@Controller('courses/:course/exercises')
export class ReleasedController {
  constructor(
    private readonly released: ReleasedExercises,
    private readonly corrections: Corrections,
  ) {}

  @Get(':exercise/file')
  @Route('instructor')
  async file(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
  ): Promise<StreamableFile> {
    return jsonFile(await this.released.asFile(caller, id), 'exercise.json');
  }

  @Get(':exercise/keys')
  @Route('instructor')
  async keys(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
  ): Promise<StreamableFile> {
    return jsonFile(await this.released.keysAsFile(caller, id), 'keys.json');
  }

  @Post(':exercise/withdraw')
  @Route('instructor', { status: 204 })
  withdraw(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<void> {
    return this.released.withdraw(caller, id);
  }

  @Put(':exercise/amendment')
  @Route('instructor', { takes: 'Amendment', status: 204 })
  amend(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Body() body: AmendmentBody,
  ): Promise<void> {
    return this.released.amend(caller, id, body);
  }

  @Put(':exercise/reopening')
  @Route('instructor', { takes: 'Amendment', status: 204 })
  reopen(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Body() body: AmendmentBody,
  ): Promise<void> {
    return this.released.reopen(caller, id, body);
  }

  @Get(':exercise/correction')
  @Route('instructor', { answers: 'CorrectionInfo' })
  correction(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
  ): Promise<CorrectionInfo> {
    return this.corrections.show(caller, id);
  }

  @Put(':exercise/correction')
  @Route('instructor', { takes: 'Correction', status: 202 })
  correct(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Body() body: CorrectionBody,
  ): Promise<void> {
    return this.corrections.begin(caller, id, correctionOf(body));
  }

  @Post(':exercise/correction/apply')
  @Route('instructor', { takes: 'CorrectionApplied', status: 204 })
  applyCorrection(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Body() body: CorrectionAppliedBody,
  ): Promise<void> {
    return this.corrections.apply(caller, id, body);
  }

  @Delete(':exercise/correction')
  @Route('instructor', { status: 204 })
  dropCorrection(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<void> {
    return this.corrections.drop(caller, id);
  }

  @Put(':exercise/deadlines/:person')
  @Route('instructor', { takes: 'OwnDeadline', status: 204 })
  extend(
    @Calling() caller: Caller,
    @Param('exercise', ParseUUIDPipe) id: string,
    @Param('person', ParseUUIDPipe) person: string,
    @Body() { deadline }: OwnDeadlineBody,
  ): Promise<void> {
    return this.released.extend(caller, id, person, deadline);
  }

  @Post(':exercise/return')
  @Route('instructor', { status: 204 })
  return(@Calling() caller: Caller, @Param('exercise', ParseUUIDPipe) id: string): Promise<void> {
    return this.released.return(caller, id);
  }
}

const jsonFile = (text: string, name: string): StreamableFile =>
  new StreamableFile(Buffer.from(text, 'utf8'), {
    type: 'application/json',
    disposition: `attachment; filename="${name}"`,
  });
