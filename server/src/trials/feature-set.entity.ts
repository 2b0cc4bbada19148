import { Column, CreateDateColumn, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** Features of a data set that were saved by name. */
@Entity({ schema: 'vault', name: 'feature_set' })
export class FeatureSetRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'data_set_id' }) dataSetId: string;
  @Column('text') name: string;
  @Column('jsonb') features: readonly string[];
  @CreateDateColumn({ name: 'created_at', type: 'timestamptz' }) createdAt: Date;
}
