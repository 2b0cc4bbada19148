import type { JoinedBy } from '../api/api.js';
import type { Role } from '../platform/access/access.js';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

@Entity('course')
export class CourseRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') name: string;
  @Column('text', { name: 'time_zone' }) timeZone: string;
  @Column('text', { name: 'join_code' }) joinCode: string;
  @Column('timestamptz', { name: 'join_code_expires_at' }) joinCodeExpiresAt: Date;
}

@Entity('membership')
export class Membership {
  @PrimaryColumn('uuid', { name: 'course_id' }) courseId: string;
  @PrimaryColumn('uuid', { name: 'person_id' }) personId: string;
  @Column('text') role: Role;
  @Column('text', { name: 'joined_by', default: 'code' }) joinedBy: JoinedBy;
  @Column('timestamptz', { name: 'joined_at', default: () => 'now()' }) joinedAt: Date;
  /** Part of the course in which a student is taught; null for none. */
  @Column('text', { nullable: true }) section: string | null;
}
