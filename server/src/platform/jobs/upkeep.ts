import type { EntityManager } from 'typeorm';

/** Deletes what nobody needs any more. It is done again and again, by every worker process. */
export type Upkeep = (db: EntityManager) => Promise<void>;

/** The upkeep of all features, injected. */
export const UPKEEP = Symbol('upkeep');
