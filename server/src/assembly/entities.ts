import { AuditEvent } from '../audit/audit.entity.js';
import { CourseRecord, Membership } from '../courses/course.entity.js';
import { InvitationRecord, RemovedMember } from '../courses/invitation.entity.js';
import {
  DataSetRecord,
  ImportRecord,
  PreparationRecord,
  RolesRecord,
  VersionRecord,
} from '../store/dataset.entity.js';
import { AnswerKeyRecord, CorrectionRecord, SheetRecord } from '../exercises/answer-key.js';
import { ExerciseRecord, ExtensionRecord, PackRecord } from '../exercises/exercise.entity.js';
import { ExerciseSecretRecord, OwnSheetRecord } from '../exercises/secret.entity.js';
import { ReleaseRecord } from '../reserve/release.entity.js';
import { VersionOrigin } from '../store/origin.entity.js';
import {
  AccountEvent,
  DeviceRecord,
  PasswordLinkRecord,
  PersonRecord,
  SessionRecord,
  TokenRecord,
} from '../people/person.entity.js';
import { FoldAssignmentRecord, FoldSetRecord, SplitAssignment, SplitRecord } from '../store/split.entity.js';
import { FeatureSetRecord } from '../trials/feature-set.entity.js';
import {
  TrialFoldRecord,
  TrialModelRecord,
  TrialRecord,
  TrialSettingRecord,
} from '../trials/trial.entity.js';
import { ExcusedRecord, GradePlanRecord } from '../gradebook/gradebook.entity.js';
import {
  AdjustmentRecord,
  CommentRecord,
  RemarkRecord,
  SlipVerdictRecord,
  ReceiptRecord,
  ResultRecord,
  SubmissionRecord,
} from '../submissions/submission.entity.js';

/** The entities of all features. */
export const ALL_ENTITIES = [
  PersonRecord,
  SessionRecord,
  TokenRecord,
  PasswordLinkRecord,
  DeviceRecord,
  AccountEvent,
  InvitationRecord,
  RemovedMember,
  CourseRecord,
  Membership,
  DataSetRecord,
  VersionRecord,
  RolesRecord,
  ImportRecord,
  PreparationRecord,
  SplitRecord,
  SplitAssignment,
  FoldSetRecord,
  FoldAssignmentRecord,
  GradePlanRecord,
  ExcusedRecord,
  TrialRecord,
  TrialFoldRecord,
  TrialSettingRecord,
  TrialModelRecord,
  FeatureSetRecord,
  ExerciseRecord,
  PackRecord,
  ExerciseSecretRecord,
  OwnSheetRecord,
  ReleaseRecord,
  VersionOrigin,
  AnswerKeyRecord,
  ExtensionRecord,
  SheetRecord,
  CorrectionRecord,
  SubmissionRecord,
  ReceiptRecord,
  ResultRecord,
  AdjustmentRecord,
  CommentRecord,
  RemarkRecord,
  SlipVerdictRecord,
  AuditEvent,
] as const;
