import { applyDecorators, HttpCode } from '@nestjs/common';
import { ApiBody, ApiResponse } from '@nestjs/swagger';
import type * as Api from '../../api.js';
import { For, type Audience } from './access.js';

/** Every type of `api.ts` by its name. */
interface ApiTypes {
  ProblemDetails: Api.ProblemDetails;
  SessionInfo: Api.SessionInfo;
  CourseDetail: Api.CourseDetail;
  Member: Api.Member;
  Created: Api.Created;
  DataSetList: Api.DataSetList;
  DataSetDetail: Api.DataSetDetail;
  RowPage: Api.RowPage;
  TargetSuggestion: Api.TargetSuggestion;
  SplitInfo: Api.SplitInfo;
  SplitConsequences: Api.SplitInfo['consequences'];
  ExerciseSummary: Api.ExerciseSummary;
  ExerciseDetail: Api.ExerciseDetail;
  ReceiptInfo: Api.ReceiptInfo;
  SubmissionInfo: Api.SubmissionInfo;
  ClassView: Api.ClassView;
  Gradebook: Api.Gradebook;
}
type ApiName = keyof ApiTypes;

const schemaOf = (name: string) => ({ $ref: `#/components/schemas/${name}` });

interface RouteOptions {
  /** Type of the answer; none for an empty or a binary one. */
  readonly answers?: ApiName;
  /** Whether the answer is a list of that type. */
  readonly list?: boolean;
  /** Type of the body, by its name in `api.ts` or among the core's types. */
  readonly takes?: string;
  readonly status?: 200 | 201 | 202 | 204;
}

/** Declares a route: who may call it, what it takes and what it answers. */
export function Route(audience: Audience, options: RouteOptions = {}) {
  const status = options.status ?? 200;
  const item = options.answers ? schemaOf(options.answers) : null;
  return applyDecorators(
    For(audience),
    HttpCode(status),
    item
      ? ApiResponse({ status, schema: options.list ? { type: 'array', items: item } : item })
      : ApiResponse({ status }),
    ApiResponse({ status: 'default', schema: schemaOf('ProblemDetails') }),
    ...(options.takes ? [ApiBody({ schema: schemaOf(options.takes) })] : []),
  );
}
