import type { FoldSentence, SplitPlan } from '@modest-sieve/core/splitting';
import type { SplitConsequences } from '@modest-sieve/core/audit';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

@Entity('split')
export class SplitRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'version_id' }) versionId: string;
  @Column('uuid', { name: 'roles_id' }) rolesId: string;
  /** Empty for one that has none. */
  @Column('text', { default: '' }) name: string;
  @Column('text') method: string;
  @Column('jsonb') plan: SplitPlan;
  @Column('jsonb') consequences: SplitConsequences;
  @Column('uuid', { name: 'made_by' }) madeBy: string;
  @Column('timestamptz', { name: 'created_at', default: () => 'now()' }) createdAt: Date;
}

/** Part of each row as one signed byte. */
@Entity({ schema: 'vault', name: 'split_assignment' })
export class SplitAssignment {
  @PrimaryColumn('uuid', { name: 'split_id' }) splitId: string;
  @Column('bytea') parts: Buffer;
}

@Entity('fold_set')
export class FoldSetRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'version_id' }) versionId: string;
  @Column('uuid', { name: 'roles_id' }) rolesId: string;
  /** The split whose training rows are assigned; null for all rows. */
  @Column('uuid', { name: 'split_id', nullable: true }) splitId: string | null;
  /** Empty for one that has none. */
  @Column('text', { default: '' }) name: string;
  @Column('text') method: string;
  @Column('jsonb') plan: FoldSentence;
  @Column('int') folds: number;
  @Column('int') repeats: number;
  @Column('int') rows: number;
  @Column('uuid', { name: 'made_by' }) madeBy: string;
  @Column('timestamptz', { name: 'created_at', default: () => 'now()' }) createdAt: Date;
}

/** The fold of each row, in each repeat. */
@Entity({ schema: 'vault', name: 'fold_assignment' })
export class FoldAssignmentRecord {
  @PrimaryColumn('uuid', { name: 'fold_set_id' }) foldSetId: string;
  @Column('bytea') folds: Buffer;
}
