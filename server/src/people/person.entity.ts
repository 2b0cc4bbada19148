import type { TokenScope } from '../api/api.js';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

@Entity({ schema: 'identity', name: 'person' })
export class PersonRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') email: string;
  @Column('text') name: string;
  /** Null for an account that a class list made and that nobody has claimed yet. */
  @Column('text', { name: 'password_hash', select: false, nullable: true }) passwordHash: string | null;
  @Column('boolean', { name: 'is_administrator', default: false }) isAdministrator: boolean;
  @Column('boolean', { name: 'may_make_courses', default: false }) mayMakeCourses: boolean;
  /** When the account was deleted: its row stays for what others did with it, without name and address. */
  @Column('timestamptz', { name: 'deleted_at', nullable: true }) deletedAt: Date | null;
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
  /** The instructor or administrator who made it; null for the administrator's command. */
  @Column('uuid', { name: 'made_by', nullable: true }) madeBy: string | null;
  @Column('timestamptz', { name: 'expires_at' }) expiresAt: Date;
}

/** A browser in which somebody has signed in before. */
@Entity({ schema: 'identity', name: 'device' })
export class DeviceRecord {
  @PrimaryColumn('bytea', { name: 'token_hash' }) tokenHash: Buffer;
  @Column('uuid', { name: 'person_id' }) personId: string;
  @Column('timestamptz', { name: 'used_at', default: () => 'now()' }) usedAt: Date;
}

/** Something that happened to an account, for its person to read. */
@Entity({ schema: 'identity', name: 'account_event' })
export class AccountEvent {
  @PrimaryGeneratedColumn('identity') id: string;
  @Column('uuid', { name: 'person_id' }) personId: string;
  @Column('timestamptz', { default: () => 'now()' }) at: Date;
  @Column('text') text: string;
}
