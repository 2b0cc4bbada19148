import type { SplitConsequences, SplitPlan } from '@modest-sieve/core';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

@Entity('split')
export class SplitRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'version_id' }) versionId: string;
  @Column('uuid', { name: 'roles_id' }) rolesId: string;
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
