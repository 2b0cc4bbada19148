import { deserialize, serialize } from 'node:v8';
import { deflateSync, inflateSync } from 'node:zlib';
import type { AnswerKey, Check } from '@modest-sieve/core';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** The answers of an exercise, in `vault`. Only jobs and staff requests have a connection that may read it. */
@Entity({ schema: 'vault', name: 'answer_key' })
export class AnswerKeyRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'exercise_id' }) exerciseId: string;
  @Column('int') revision: number;
  @Column('bytea') key: Buffer;
  @Column('jsonb') audit: Check[];
  @Column('int') seed: number;
}

export const packKey = (key: AnswerKey): Buffer => deflateSync(serialize(key));
export const unpackKey = (bytes: Buffer): AnswerKey => deserialize(inflateSync(bytes)) as AnswerKey;
