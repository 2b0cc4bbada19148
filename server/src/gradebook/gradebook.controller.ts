import { Controller, Get, StreamableFile } from '@nestjs/common';
import type { Gradebook } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Gradebooks } from './gradebook.service.js';

@Controller('courses/:course')
export class GradebookController {
  constructor(private readonly gradebooks: Gradebooks) {}

  @Get('gradebook')
  @Route('staff', { answers: 'Gradebook' })
  gradebook(@Calling() caller: Caller): Promise<Gradebook> {
    return this.gradebooks.gradebook(caller);
  }

  @Get('gradebook.csv')
  @Route('staff')
  async csv(@Calling() caller: Caller): Promise<StreamableFile> {
    return new StreamableFile(Buffer.from(await this.gradebooks.csv(caller), 'utf8'), {
      type: 'text/csv; charset=utf-8',
      disposition: 'attachment; filename="marks.csv"',
    });
  }
}
