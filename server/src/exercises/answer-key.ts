import { deserialize, serialize } from 'node:v8';
import { deflateSync, inflateSync } from 'node:zlib';
import type { Check, KeyOf, Question } from '@modest-sieve/core';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

/** The keys of an exercise's questions, in `vault`. Only jobs and staff requests have a connection that may read them. */
@Entity({ schema: 'vault', name: 'answer_key' })
export class AnswerKeyRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'exercise_id' }) exerciseId: string;
  @Column('int') revision: number;
  @Column('bytea') key: Buffer;
  @Column('jsonb') audit: Check[];
  @Column('int') seed: number;
}

/** Questions with all that only staff may know, in `vault`. */
@Entity({ schema: 'vault', name: 'sheet' })
export class SheetRecord {
  @PrimaryColumn('uuid', { name: 'exercise_id' }) exerciseId: string;
  @PrimaryColumn('int') revision: number;
  @Column('jsonb') questions: Question[];
}

/** By the questions' ids. */
export type KeysById = Readonly<Record<string, KeyOf>>;

export const packKeys = (keys: KeysById): Buffer => deflateSync(serialize(keys));
export const unpackKeys = (bytes: Buffer): KeysById => deserialize(inflateSync(bytes)) as KeysById;
