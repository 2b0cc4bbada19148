import { deserialize, serialize } from 'node:v8';
import { deflateSync, inflateSync } from 'node:zlib';
import type {
  Figures,
  FoldFigures,
  MeasuredFold,
  Round,
  Setting,
  TrialPlan,
  Varied,
} from '@modest-sieve/core/evaluation';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';
import type { TrialDetail, TrialInfo, TrialOutcome } from '../api/api.js';
import type { OutOfFold } from './trial-material.js';

/** A model that is tried over folds; in `vault`, since its figures may be those of held-out rows. */
@Entity({ schema: 'vault', name: 'trial' })
export class TrialRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'course_id' }) courseId: string;
  @Column('uuid', { name: 'fold_set_id' }) foldSetId: string;
  /** Empty for one that has none. */
  @Column('text', { default: '' }) name: string;
  @Column('jsonb') plan: TrialPlan;
  @Column('text', { name: 'plan_hash' }) planHash: string;
  @Column('text', { default: 'waiting' }) state: TrialInfo['state'];
  @Column('jsonb', { nullable: true }) problem: TrialInfo['problem'];
  @Column('jsonb', { nullable: true }) settled: Settled | null;
  @Column('jsonb', { nullable: true }) outcome: Omit<TrialOutcome, 'heldOut'> | null;
  @Column('jsonb', { nullable: true, select: false }) detail: TrialShown | null;
  @Column('jsonb', { name: 'held_out', nullable: true }) heldOut: HeldOutLook | null;
  @Column('boolean', { name: 'is_reference', default: false }) isReference: boolean;
  @Column('uuid', { name: 'made_by' }) madeBy: string;
  @Column('timestamptz', { name: 'created_at', default: () => 'now()' }) createdAt: Date;
}

export interface Settled {
  readonly vary: Varied[];
  readonly repeats: number;
  /** Folds in each repeat. */
  readonly count: number;
  /** None where nothing is searched. */
  readonly search?: {
    readonly drawn: Setting[];
    readonly rounds: Round[];
    /** Whether predictions are kept, which tell how much of the best is luck. */
    readonly keeps: boolean;
  };
}

/** The first look at the held-out figures: what, when, and by whom. */
export interface HeldOutLook {
  readonly figures: Figures;
  readonly at: string;
  readonly by: string;
}

/** What the views of a trial are drawn from. */
export type TrialShown = Pick<TrialDetail, 'settings' | 'choices' | 'place' | 'model' | 'luck'>;

@Entity({ schema: 'vault', name: 'trial_fold' })
export class TrialFoldRecord {
  @PrimaryColumn('uuid', { name: 'trial_id' }) trialId: string;
  @PrimaryColumn('int') repeat: number;
  @PrimaryColumn('int') fold: number;
  @Column('jsonb') measured: MeasuredFold;
  @Column('double precision') seconds: number;
}

/** A setting that a search measured in one of its rounds. */
@Entity({ schema: 'vault', name: 'trial_setting' })
export class TrialSettingRecord {
  @PrimaryColumn('uuid', { name: 'trial_id' }) trialId: string;
  @PrimaryColumn('int') round: number;
  /** Among the settings that were drawn. */
  @PrimaryColumn('int') place: number;
  @Column('jsonb') measured: SearchedFolds;
  @Column('bytea', { name: 'out_of_fold', nullable: true, select: false }) outOfFold: Buffer | null;
  @Column('double precision') seconds: number;
}

/** Figures of a setting in every fold, or why it could not be fitted. */
export interface SearchedFolds {
  readonly folds: readonly FoldFigures[];
  readonly warnings: readonly string[];
  readonly problem: string | null;
}

@Entity({ schema: 'vault', name: 'trial_model' })
export class TrialModelRecord {
  @PrimaryColumn('uuid', { name: 'trial_id' }) trialId: string;
  /** JSON of the fitted model, compressed. */
  @Column('bytea') fitted: Buffer;
  @Column('bytea', { name: 'out_of_fold' }) outOfFold: Buffer;
}

export const packText = (text: string): Buffer => deflateSync(text);
export const unpackText = (bytes: Buffer): string => inflateSync(bytes).toString();
export const packOutOfFold = (predictions: OutOfFold): Buffer => deflateSync(serialize(predictions));
export const unpackOutOfFold = (bytes: Buffer): OutOfFold => deserialize(inflateSync(bytes)) as OutOfFold;
