import { Controller, Get, Param, ParseUUIDPipe } from '@nestjs/common';
import type { ReferenceRun } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { TrialLooks } from './trial-looks.service.js';

/** The reference runs of a split. */
@Controller('courses/:course/splits/:split')
export class ReferencesController {
  constructor(private readonly looks: TrialLooks) {}

  @Get('references')
  @Route('instructor', { answers: 'ReferenceRun', list: true })
  references(
    @Calling() caller: Caller,
    @Param('split', ParseUUIDPipe) split: string,
  ): Promise<ReferenceRun[]> {
    return this.looks.references(caller, split);
  }
}
