import type { EntityManager } from 'typeorm';
import { AuditEvent } from './audit.entity.js';

/** Everything that the trail records, by the name that is stored, with the words that are shown. */
export const ACTIONS = {
  'course made': 'made the course',
  joined: 'joined',
  'code renewed': 'renewed the join code',
  'role changed': 'changed the role of',
  'person removed': 'removed from the course',
  'person invited': 'invited',
  'invitation revoked': 'revoked the invitation of',
  'work deleted': 'deleted the work of',
  'roster imported': 'imported the class list',
  'link made': 'made a link for a new password of',
  'password set by a link': 'made a link by which a new password was set for',
  'table brought': 'imported the table',
  'data set renamed': 'renamed the data set',
  'data set deleted': 'deleted the data set',
  'version made current': 'made current again',
  'version deleted': 'deleted',
  'steps kept': 'saved steps as a version of',
  'columns marked': 'marked the columns of',
  'split kept': 'saved a split of',
  'split renamed': 'renamed a split of',
  'split deleted': 'deleted a split of',
  'folds kept': 'saved folds of',
  'folds renamed': 'renamed folds of',
  'folds deleted': 'deleted folds of',
  'model tried': 'tried a model on',
  'run renamed': 'named a run',
  'held-out looked at': 'looked at held-out figures of',
  'reference made': 'made a reference run of',
  'reference dropped': 'took back the reference run',
  'columns described': 'described the columns of',
  'release begun': 'began the release of',
  'exercise released': 'released',
  'release refused': 'was refused the release of',
  'exercise returned': 'returned',
  'exercise reopened': 'reopened',
  'exercise withdrawn': 'withdrew',
  'marks adjusted': 'adjusted marks of',
  commented: 'commented on an answer of',
  'commented on all': 'commented on all answers of',
  'slip dismissed': 'dismissed a mistake found in an answer of',
  'slip named': 'named a mistake in an answer of',
  'slip verdict undone': 'took back what was said of a mistake in an answer of',
  'check begun again': 'had answers checked again of',
  'grades weighed': 'changed how exercises make a total',
  excused: 'excused',
  'no longer excused': 'no longer excuses',
  'section set': 'set the section of',
  'correction begun': 'began a correction of',
  'correction applied': 'corrected',
  'correction dropped': 'dropped a correction of',
  'keys taken out': 'exported the keys of',
  'exercise amended': 'amended',
  'deadline extended': 'set a deadline of their own for',
  'draft deleted': 'deleted the draft',
  'job cancelled': 'cancelled',
} as const;
export type Action = keyof typeof ACTIONS;

/** Who did it and where; a caller is one. */
export interface Doer {
  readonly person: { readonly id: string };
  readonly courseId: string;
}

/**
 * Adds to the activity log, within the transaction of what it records: neither is there without the other.
 *
 * @param subject what was acted on, by the name that people know it by
 */
export async function note(
  manager: EntityManager,
  { person, courseId }: Doer,
  action: Action,
  subject = '',
  detail: AuditEvent['detail'] = {},
): Promise<void> {
  await manager.insert(AuditEvent, { courseId, personId: person.id, action, subject, detail });
}
