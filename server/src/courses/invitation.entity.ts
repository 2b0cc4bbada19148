import type { Role } from '../platform/access/access.js';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

/** An invitation to a course that nobody has accepted yet. Accepting or declining deletes it. */
@Entity({ schema: 'identity', name: 'invitation' })
export class InvitationRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'course_id' }) courseId: string;
  @Column('text') email: string;
  @Column('text') name: string;
  @Column('text') role: Role;
  @Column('bytea', { name: 'token_hash' }) tokenHash: Buffer;
  /**
   * Whether nobody had claimed the account of the address. Another course's link may claim it since, so that the address
   * proves nothing here.
   */
  @Column('boolean', { name: 'by_link_only' }) byLinkOnly: boolean;
  @Column('uuid', { name: 'made_by' }) madeBy: string;
  @Column('timestamptz', { name: 'created_at', default: () => 'now()' }) createdAt: Date;
  @Column('timestamptz', { name: 'expires_at' }) expiresAt: Date;
}

/** A student who was removed: no code brings them back. */
@Entity({ schema: 'identity', name: 'removed_member' })
export class RemovedMember {
  @PrimaryColumn('uuid', { name: 'course_id' }) courseId: string;
  @PrimaryColumn('uuid', { name: 'person_id' }) personId: string;
}
