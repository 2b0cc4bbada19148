import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

/** What students of a data set were given once, in `vault`. It outlasts the withdrawal of its exercise. */
@Entity({ schema: 'vault', name: 'release' })
export class ReleaseRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'data_set_id' }) dataSetId: string;
  @Column('uuid', { name: 'split_id' }) splitId: string;
  @Column('uuid', { name: 'exercise_id', nullable: true }) exerciseId: string | null;
  @Column('text') title: string;
  /** By row of the split's version: `FEEDBACK`, `FINAL`, or 0 for one that is not divided. */
  @Column('bytea') division: Buffer;
  @Column('timestamptz', { name: 'released_at', default: () => 'now()' }) releasedAt: Date;
}

/** The row of the raw table that each row of a prepared version was: four bytes a row, little-endian. */
@Entity({ schema: 'vault', name: 'version_origin' })
export class VersionOrigin {
  @PrimaryColumn('uuid', { name: 'version_id' }) versionId: string;
  @Column('bytea') origin: Buffer;
}

/** Origins as they are kept. */
export const packOrigin = (rows: Int32Array): Buffer => {
  const bytes = Buffer.alloc(4 * rows.length);
  rows.forEach((row, i) => bytes.writeInt32LE(row, 4 * i));
  return bytes;
};

export const unpackOrigin = (bytes: Buffer): Int32Array =>
  Int32Array.from({ length: bytes.length / 4 }, (_, i) => bytes.readInt32LE(4 * i));
