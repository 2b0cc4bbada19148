import type { TokenScope } from '../api/api.js';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

@Entity({ schema: 'identity', name: 'person' })
export class PersonRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') email: string;
  @Column('text') name: string;
  /** Null for somebody whom a roster brought and who has not set one yet. */
  @Column('text', { name: 'password_hash', select: false, nullable: true }) passwordHash: string | null;
}

@Entity({ schema: 'identity', name: 'session' })
export class SessionRecord {
  @PrimaryColumn('bytea', { name: 'token_hash' }) tokenHash: Buffer;
  @Column('uuid', { name: 'person_id' }) personId: string;
  @Column('timestamptz', { name: 'expires_at' }) expiresAt: Date;
}

@Entity({ schema: 'identity', name: 'token' })
export class TokenRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'person_id' }) personId: string;
  @Column('text') name: string;
  @Column('text', { array: true }) scopes: TokenScope[];
  @Column('bytea', { name: 'token_hash', select: false }) tokenHash: Buffer;
  @Column('timestamptz', { name: 'created_at', default: () => 'now()' }) createdAt: Date;
  @Column('timestamptz', { name: 'expires_at' }) expiresAt: Date;
  @Column('timestamptz', { name: 'last_used_at', nullable: true }) lastUsedAt: Date | null;
}

@Entity({ schema: 'identity', name: 'password_link' })
export class PasswordLinkRecord {
  @PrimaryColumn('bytea', { name: 'token_hash' }) tokenHash: Buffer;
  @Column('uuid', { name: 'person_id' }) personId: string;
  @Column('uuid', { name: 'made_by' }) madeBy: string;
  @Column('timestamptz', { name: 'expires_at' }) expiresAt: Date;
}
