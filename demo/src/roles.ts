import type { Roles } from '@modest-sieve/core/data';

export const NO_ROLES = {
  positive: null,
  identifier: null,
  group: null,
  time: null,
  weight: null,
  withheld: [],
} as const;

/** What the columns of the table are for that exercises are set on. */
export const OVERWINTERING_ROLES: Roles = {
  ...NO_ROLES,
  target: 'survived',
  task: 'binary',
  positive: 'yes',
  identifier: 'colony',
  group: 'apiary',
  withheld: ['spring_frames'],
};
