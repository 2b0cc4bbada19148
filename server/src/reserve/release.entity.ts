import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

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
