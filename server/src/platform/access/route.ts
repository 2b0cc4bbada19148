import { applyDecorators, HttpCode, SetMetadata } from '@nestjs/common';
import { ApiBody, ApiExtension, ApiQuery, ApiResponse } from '@nestjs/swagger';
import { getMetadataStorage } from 'class-validator';
import type * as Api from '../../api/api.js';
import { DECLARATION, type Audience, type Declaration, type Scope } from './access.js';

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
  TableFindings: Api.TableFindings;
  TargetByValue: Api.TargetByValue;
  ColumnPair: Api.ColumnPair;
  Correlations: Api.Correlations;
  PrepareAnswer: Api.PrepareAnswer;
  SplitInfo: Api.SplitInfo;
  SplitConsequences: Api.SplitInfo['consequences'];
  SplitDraws: Api.SplitDraws;
  FoldAnswer: Api.FoldAnswer;
  TrialInfo: Api.TrialInfo;
  TrialDetail: Api.TrialDetail;
  TrialEvidence: Api.TrialEvidence;
  TrialAgainst: Api.TrialAgainst;
  CaseAnswer: Api.CaseAnswer;
  ArmInfo: Api.ArmInfo;
  ColumnDependence: Api.ColumnDependence;
  ColumnImportance: Api.ColumnImportance;
  ColumnScreening: Api.ColumnScreening;
  RunsLuck: Api.RunsLuck;
  RunsLuckRequest: Api.RunsLuckRequest;
  FeatureSelection: Api.FeatureSelection;
  FeatureSetInfo: Api.FeatureSetInfo;
  FeatureSetRequest: Api.FeatureSetRequest;
  DependenceRequest: Api.DependenceRequest;
  FamiliesRequest: Api.FamiliesRequest;
  ImportanceRequest: Api.ImportanceRequest;
  ScreeningRequest: Api.ScreeningRequest;
  SelectionRequest: Api.SelectionRequest;
  ReferenceRun: Api.ReferenceRun;
  ExerciseSummary: Api.ExerciseSummary;
  ExerciseDetail: Api.ExerciseDetail;
  ExercisePreview: Api.ExercisePreview;
  FileRules: Api.FileRules;
  CorrectionInfo: Api.CorrectionInfo;
  TriedAnswer: Api.TriedAnswer;
  ReceiptInfo: Api.ReceiptInfo;
  ReceiptPage: Api.ReceiptPage;
  OpenedSubmission: Api.OpenedSubmission;
  ClassView: Api.ClassView;
  AnswerEvidenceInfo: Api.AnswerEvidenceInfo;
  ClassAnswersInfo: Api.ClassAnswersInfo;
  LikenessInfo: Api.LikenessInfo;
  WearInfo: Api.WearInfo;
  Gradebook: Api.Gradebook;
  OwnGrades: Api.OwnGrades;
  LinkInfo: Api.LinkInfo;
  AccountEventInfo: Api.AccountEventInfo;
  InvitationInfo: Api.InvitationInfo;
  InvitationShown: Api.InvitationShown;
  OwnInvitation: Api.OwnInvitation;
  AdministeredPerson: Api.AdministeredPerson;
  AdministeredCourse: Api.AdministeredCourse;
  ServerLog: Api.ServerLog;
  CourseMakers: Api.CourseMakers;
  MadeLink: Api.MadeLink;
  TokenInfo: Api.TokenInfo;
  MadeToken: Api.MadeToken;
  RosterPreview: Api.RosterPreview;
  RosterResult: Api.RosterResult;
  AuditPage: Api.AuditPage;
  JobInfo: Api.JobInfo;
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
  /** The class that the query is read into. */
  readonly query?: new () => object;
  readonly status?: 200 | 201 | 202 | 204;
  /** What a token must be allowed; `session`, where nothing is said, keeps tokens out. */
  readonly scope?: Scope;
}

/** Declares a route: who may call it, what it takes and what it answers. A route without a declaration stops the start. */
export function Route(audience: Audience, options: RouteOptions = {}) {
  const status = options.status ?? 200;
  const declaration: Declaration = { audience, scope: options.scope ?? 'session' };
  const item = options.answers ? schemaOf(options.answers) : null;
  return applyDecorators(
    SetMetadata(DECLARATION, declaration),
    ApiExtension('x-audience', audience),
    ApiExtension('x-scope', declaration.scope),
    HttpCode(status),
    item
      ? ApiResponse({ status, schema: options.list ? { type: 'array', items: item } : item })
      : ApiResponse({ status }),
    ApiResponse({ status: 'default', schema: schemaOf('ProblemDetails') }),
    ...(options.takes ? [ApiBody({ schema: schemaOf(options.takes) })] : []),
    ...namesIn(options.query).map((name) => ApiQuery({ name, required: false, type: String })),
  );
}

/** The names that a query may have: those that its class checks. */
const namesIn = (query: RouteOptions['query']): string[] =>
  query
    ? [
        ...new Set(
          getMetadataStorage()
            .getTargetValidationMetadatas(query, '', false, false)
            .map(({ propertyName }) => propertyName),
        ),
      ]
    : [];
