import type { FieldType, Get } from './row.js';

/** An expression, and what its values are compared as. */
export interface Expression {
  readonly type: FieldType;
  readonly get: Get;
}
