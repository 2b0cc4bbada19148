import type { ColumnProfile, Combination, Roles, Step, StepEffect } from '@modest-sieve/core/data';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

@Entity('data_set')
export class DataSetRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'course_id' }) courseId: string;
  @Column('text') name: string;
  /** Number of the version that was made current again; null where it is the one that was made last. */
  @Column('int', { name: 'current_number', nullable: true }) currentNumber: number | null;
  /** What each column means, in the instructor's words, by its name; the same for all versions. */
  @Column('jsonb', { default: {} }) descriptions: Record<string, string>;
  @Column('timestamptz', { name: 'created_at', default: () => 'now()' }) createdAt: Date;
}

@Entity('data_set_version')
export class VersionRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'data_set_id' }) dataSetId: string;
  @Column('int') number: number;
  @Column('int', { name: 'row_count' }) rowCount: number;
  @Column('jsonb') profile: ColumnProfile[];
  @Column('text', { name: 'file_sha256' }) fileSha256: string;
  /** The raw version that steps made this one of; null for a raw table. */
  @Column('uuid', { name: 'base_id', nullable: true }) baseId: string | null;
  @Column('jsonb') steps: Step[];
  @Column('jsonb') effects: StepEffect[];
  @Column('timestamptz', { name: 'created_at', default: () => 'now()' }) createdAt: Date;
}

/** A version that is to be made, until it is. */
@Entity('preparation')
export class PreparationRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'course_id' }) courseId: string;
  @Column('uuid', { name: 'data_set_id' }) dataSetId: string;
  @Column('uuid', { name: 'base_id' }) baseId: string;
  @Column('jsonb') steps: Step[];
  @Column('text') state: 'waiting' | 'done' | 'failed';
  @Column('jsonb', { nullable: true }) problem: { code: string; message: string } | null;
  @Column('uuid', { name: 'made_by' }) madeBy: string;
  @Column('timestamptz', { name: 'created_at', default: () => 'now()' }) createdAt: Date;
}

@Entity('column_roles')
export class RolesRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'version_id' }) versionId: string;
  @Column('int') revision: number;
  @Column('jsonb') roles: Roles;
  @Column('uuid', { name: 'made_by' }) madeBy: string;
}

/** How a file is read. */
export interface ImportOptions {
  /** Which sheet of a workbook, or table of a package. */
  readonly sheet?: string;
  /** How it is put to the newest raw table, in whose place it comes where nothing is said. */
  readonly combination?: Combination;
  /** The column by which rows are joined. */
  readonly key?: string;
}

@Entity('import')
export class ImportRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'course_id' }) courseId: string;
  @Column('text', { name: 'file_name' }) fileName: string;
  @Column('text', { name: 'file_sha256' }) fileSha256: string;
  @Column('text') state: 'waiting' | 'done' | 'failed';
  /** Why it could not be read; with what could be meant where one of several tables has to be chosen. */
  @Column('jsonb', { nullable: true })
  problem: { code: string; message: string; choices?: readonly string[] } | null;
  @Column('jsonb', { default: {} }) options: ImportOptions;
  @Column('uuid', { name: 'data_set_id', nullable: true }) dataSetId: string | null;
  /** The data set that it is a new raw table of; null for a file that makes a new one. */
  @Column('uuid', { name: 'into_id', nullable: true }) intoId: string | null;
}
