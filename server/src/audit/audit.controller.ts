import { Controller, Get, Query } from '@nestjs/common';
import { IsNumberString, IsOptional, MaxLength } from 'class-validator';
import type { AuditPage } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { ACTIONS, type Action } from './note.js';

const PAGE = 100;

export class AuditQuery {
  /** Identifier of the oldest event that the caller has. */
  @IsOptional() @IsNumberString({ no_symbols: true }) @MaxLength(18) before?: string;
}

@Controller('courses/:course/audit')
export class AuditController {
  /** The trail, the latest first. */
  @Get()
  @Route('instructor', { answers: 'AuditPage', query: AuditQuery })
  async trail(@Calling() caller: Caller, @Query() { before }: AuditQuery): Promise<AuditPage> {
    const rows: (Omit<AuditPage['events'][number], 'text'> & { action: Action })[] = await caller.db.query(
      `SELECT e.id::text, e.at, p.name AS person, e.action, e.subject, e.detail
         FROM audit_event e JOIN identity.person p ON p.id = e.person_id
        WHERE e.course_id = $1 AND ($2::bigint IS NULL OR e.id < $2) ORDER BY e.id DESC LIMIT ${PAGE + 1}`,
      [caller.courseId, before ?? null],
    );
    return {
      events: rows.slice(0, PAGE).map((row) => ({ ...row, text: ACTIONS[row.action] })),
      next: rows.length > PAGE ? (rows[PAGE - 1]?.id ?? null) : null,
    };
  }
}
