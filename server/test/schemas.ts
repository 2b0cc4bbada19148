import type * as Api from '../src/api/api.js';

/** Types of the API by name, as the tests read answers. */
export interface Schemas {
  CourseDetail: Api.CourseDetail;
  Member: Api.Member;
  MadeToken: Api.MadeToken;
  TokenInfo: Api.TokenInfo;
  MadeLink: Api.MadeLink;
  RosterPreview: Api.RosterPreview;
  RosterResult: Api.RosterResult;
  AuditPage: Api.AuditPage;
  JobInfo: Api.JobInfo;
  DataSetList: Api.DataSetList;
  DataSetDetail: Api.DataSetDetail;
  RowPage: Api.RowPage;
  PrepareAnswer: Api.PrepareAnswer;
  TableFindings: Api.TableFindings;
  TargetByValue: Api.TargetByValue;
  ColumnPair: Api.ColumnPair;
  Correlations: Api.Correlations;
  SplitDraws: Api.SplitDraws;
  TrialInfo: Api.TrialInfo;
  TrialDetail: Api.TrialDetail;
  TrialEvidence: Api.TrialEvidence;
  TrialAgainst: Api.TrialAgainst;
  CaseAnswer: Api.CaseAnswer;
  ArmInfo: Api.ArmInfo;
  ReferenceRun: Api.ReferenceRun;
  FoldAnswer: Api.FoldAnswer;
  ExerciseSettings: Api.ExerciseSettings;
  ExerciseDetail: Api.ExerciseDetail;
  ExercisePreview: Api.ExercisePreview;
  CorrectionInfo: Api.CorrectionInfo;
  TriedAnswer: Api.TriedAnswer;
  ExerciseSummary: Api.ExerciseSummary;
  ReceiptInfo: Api.ReceiptInfo;
  SubmissionInfo: Api.SubmissionInfo;
  OpenedSubmission: Api.OpenedSubmission;
  ClassView: Api.ClassView;
  WearInfo: Api.WearInfo;
  Gradebook: Api.Gradebook;
  SessionInfo: Api.SessionInfo;
  OwnReceipt: Api.OwnReceipt;
  ReceiptPage: Api.ReceiptPage;
  OwnInvitation: Api.OwnInvitation;
  InvitationInfo: Api.InvitationInfo;
  AdministeredPerson: Api.AdministeredPerson;
}
