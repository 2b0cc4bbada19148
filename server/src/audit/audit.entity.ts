import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** Something that a member of a course did and that others may have to account for. Never changed, never deleted. */
@Entity('audit_event')
export class AuditEvent {
  @PrimaryGeneratedColumn('identity') id: string;
  @Column('uuid', { name: 'course_id' }) courseId: string;
  @Column('timestamptz', { default: () => 'now()' }) at: Date;
  @Column('uuid', { name: 'person_id' }) personId: string;
  @Column('text') action: string;
  @Column('text') subject: string;
  @Column('jsonb') detail: Record<string, string | number | null>;
}
