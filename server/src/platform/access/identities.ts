import type { Request } from 'express';
import type { Person } from './access.js';
import type { TokenScope } from '../../api/api.js';

/** Who sends a request, and what their token allows; null for a session, which allows all that the person may do. */
export interface Identity {
  readonly person: Person;
  readonly isAdministrator: boolean;
  readonly scopes: readonly TokenScope[] | null;
}

/** Finds out who sends a request; null for one that is not signed in. Injected by this name. */
export abstract class Identities {
  abstract identify(request: Request): Promise<Identity | null>;
}
