import { AuditEvent } from '../../audit/audit.entity.js';
import { CourseRecord, Membership } from '../../courses/course.entity.js';
import { InvitationRecord, RemovedMember } from '../../courses/invitation.entity.js';
import {
  DataSetRecord,
  ImportRecord,
  PreparationRecord,
  RolesRecord,
  VersionRecord,
} from '../../datasets/dataset.entity.js';
import { AnswerKeyRecord, CorrectionRecord, SheetRecord } from '../../exercises/answer-key.js';
import { ExerciseRecord, ExtensionRecord, PackRecord } from '../../exercises/exercise.entity.js';
import { ExerciseSecretRecord, OwnSheetRecord } from '../../exercises/secret.entity.js';
import { ReleaseRecord, VersionOrigin } from '../../reserve/release.entity.js';
import {
  AccountEvent,
  DeviceRecord,
  PasswordLinkRecord,
  PersonRecord,
  SessionRecord,
  TokenRecord,
} from '../../people/person.entity.js';
import {
  FoldAssignmentRecord,
  FoldSetRecord,
  SplitAssignment,
  SeedSensitivity,
} from '../../splits/split.entity.js';
import { TrialFoldRecord, TrialModelRecord, TrialRecord } from '../../trials/trial.entity.js';
import {
  AdjustmentRecord,
  ReceiptRecord,
  ResultRecord,
  SubmissionRecord,
} from '../../submissions/submission.entity.js';

/** Every entity, for every connection; what a connection may touch is the database's to say. */
export const ENTITIES = [
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
  SeedSensitivity,
  SplitAssignment,
  FoldSetRecord,
  FoldAssignmentRecord,
  TrialRecord,
  TrialFoldRecord,
  TrialModelRecord,
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
  AuditEvent,
] as const;
