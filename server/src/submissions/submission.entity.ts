import type { Disclosed, Result, SlipVerdict } from '@modest-sieve/core/assessment';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

@Entity('submission')
export class SubmissionRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'exercise_id' }) exerciseId: string;
  @Column('uuid', { name: 'person_id' }) personId: string;
  /** The question that it answers. */
  @Column('text') question: string;
  /** Counts the answers of a student to the question. */
  @Column('int') number: number;
  @Column('text', { name: 'file_name', nullable: true }) fileName: string | null;
  @Column('text', { name: 'file_sha256', nullable: true }) fileSha256: string | null;
  /** What was typed or chosen. */
  @Column('jsonb') fields: Readonly<Record<string, string>>;
  @Column('text', { name: 'idempotency_key' }) idempotencyKey: string;
  @Column('timestamptz', { name: 'received_at' }) receivedAt: Date;
}

@Entity('receipt')
export class ReceiptRecord {
  @PrimaryColumn('uuid', { name: 'submission_id' }) submissionId: string;
  @PrimaryColumn('text') stage: 'open' | 'returned';
  /** Counts the receipts of a stage: a later one holds in place of those before it. */
  @PrimaryColumn('int', { default: 1 }) issue: number;
  @Column('text') outcome: 'checked' | 'refused' | 'failed';
  @Column('jsonb', { nullable: true }) disclosed: Disclosed | null;
  @Column('text', { nullable: true }) problem: string | null;
}

/** Marks that staff gave an answer. The last one holds; without marks, those that were found. */
@Entity({ schema: 'vault', name: 'adjustment' })
export class AdjustmentRecord {
  @PrimaryColumn('uuid', { name: 'submission_id' }) submissionId: string;
  @PrimaryColumn('int') number: number;
  @Column('double precision', { nullable: true }) marks: number | null;
  @Column('text') reason: string;
  @Column('uuid', { name: 'made_by' }) madeBy: string;
  @Column('timestamptz', { name: 'made_at' }) madeAt: Date;
}

/** What staff wrote about an answer. The last one holds; an empty one takes it back. */
@Entity({ schema: 'vault', name: 'comment' })
export class CommentRecord {
  @PrimaryColumn('uuid', { name: 'submission_id' }) submissionId: string;
  @PrimaryColumn('int') number: number;
  /** Markdown. */
  @Column('text') text: string;
  @Column('uuid', { name: 'made_by' }) madeBy: string;
  @Column('timestamptz', { name: 'made_at' }) madeAt: Date;
}

/** What staff said of a mistake in an answer. Of each mistake and figure the last word holds. */
@Entity({ schema: 'vault', name: 'slip_verdict' })
export class SlipVerdictRecord {
  @PrimaryColumn('uuid', { name: 'submission_id' }) submissionId: string;
  @PrimaryColumn('int') number: number;
  @Column('text') slip: string;
  @Column('text', { nullable: true }) field: string | null;
  @Column('text') verdict: SlipVerdict['verdict'] | 'undone';
  @Column('uuid', { name: 'made_by' }) madeBy: string;
  @Column('timestamptz', { name: 'made_at' }) madeAt: Date;
}

/** What staff wrote about all that a student handed in for an exercise. The last one holds; an empty one takes it back. */
@Entity({ schema: 'vault', name: 'remark' })
export class RemarkRecord {
  @PrimaryColumn('uuid', { name: 'exercise_id' }) exerciseId: string;
  @PrimaryColumn('uuid', { name: 'person_id' }) personId: string;
  @PrimaryColumn('int') number: number;
  /** Markdown. */
  @Column('text') text: string;
  @Column('uuid', { name: 'made_by' }) madeBy: string;
  @Column('timestamptz', { name: 'made_at' }) madeAt: Date;
}

@Entity({ schema: 'vault', name: 'result' })
export class ResultRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'submission_id' }) submissionId: string;
  @Column('int') revision: number;
  @Column('uuid', { name: 'key_id' }) keyId: string;
  @Column('int') checker: number;
  @Column('text') method: string;
  @Column('jsonb') result: Result;
  @Column('timestamptz', { name: 'created_at', default: () => 'now()' }) createdAt: Date;
}
