import type { MarkScheme } from '@modest-sieve/core/assessment';
import type { Schemas } from '../api/client.js';

/** The line of marks of a question of predictions; null of others. */
export const schemeOf = (sheet: Schemas['QuestionSheet'] | null | undefined): MarkScheme | null =>
  sheet?.rules && 'scheme' in sheet.rules ? sheet.rules.scheme : null;

/** The metric of a question of predictions; null of others. */
export const metricOf = (sheet: Schemas['QuestionSheet'] | null | undefined): string | null =>
  sheet?.rules && 'scheme' in sheet.rules ? sheet.rules.metric : null;
