import { deserialize, serialize } from 'node:v8';
import { deflateSync, inflateSync } from 'node:zlib';
import type { Check } from '@modest-sieve/core/foundation';
import type { KeyOf, Question, ReleasedQuestion } from '@modest-sieve/core/assessment';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';
import type { CorrectionState } from '../api/api.js';

/** The keys of an exercise's questions, in `vault`. Only jobs and staff requests have a connection that may read them. */
@Entity({ schema: 'vault', name: 'answer_key' })
export class AnswerKeyRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'exercise_id' }) exerciseId: string;
  @Column('int') revision: number;
  @Column('bytea') key: Buffer;
  @Column('jsonb') audit: Check[];
  /** The reference runs that it was computed from, by id; null where it depends on none. */
  @Column('jsonb', { nullable: true }) runs: string[] | null;
}

/** Questions with all that only staff may know, in `vault`. */
@Entity({ schema: 'vault', name: 'sheet' })
export class SheetRecord {
  @PrimaryColumn('uuid', { name: 'exercise_id' }) exerciseId: string;
  @PrimaryColumn('int') revision: number;
  @Column('jsonb') questions: Question[];
}

/** Corrected questions of an exercise that students have, in `vault`, until they are applied or dropped. */
@Entity({ schema: 'vault', name: 'correction' })
export class CorrectionRecord {
  @PrimaryColumn('uuid', { name: 'exercise_id' }) exerciseId: string;
  /** Another one for each that was begun. */
  @Column('uuid') id: string;
  /** That of its sheet and keys, and of the exercise once it is applied. */
  @Column('int') revision: number;
  /** What students will read. */
  @Column('text') state: CorrectionState;
  @Column('jsonb', { nullable: true }) problem: { code: string; message: string } | null;
  /** What students will have; null until it is made. */
  @Column('jsonb', { nullable: true }) released: ReleasedQuestion[] | null;
}

/** By the questions' ids. */
export type KeysById = Readonly<Record<string, KeyOf>>;

export const packKeys = (keys: KeysById): Buffer => deflateSync(serialize(keys));
export const unpackKeys = (bytes: Buffer): KeysById => deserialize(inflateSync(bytes)) as KeysById;
