import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

@Entity({ schema: 'identity', name: 'person' })
export class PersonRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') email: string;
  @Column('text') name: string;
  @Column('text', { name: 'password_hash', select: false }) passwordHash: string;
}

@Entity({ schema: 'identity', name: 'session' })
export class SessionRecord {
  @PrimaryColumn('bytea', { name: 'token_hash' }) tokenHash: Buffer;
  @Column('uuid', { name: 'person_id' }) personId: string;
  @Column('timestamptz', { name: 'expires_at' }) expiresAt: Date;
}
