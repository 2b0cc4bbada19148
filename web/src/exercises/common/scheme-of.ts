import type { MarkScheme } from '@modest-sieve/core/assessment';
import type { Schemas } from '../../api/client.js';

/** The line of marks of a question that is marked by a score; null of others. */
export const schemeOf = (sheet: Schemas['QuestionSheet'] | null | undefined): MarkScheme | null =>
  sheet?.fileAbout?.scheme ?? null;

/** The metric of a question that is marked by a score; null of others. */
export const metricOf = (sheet: Schemas['QuestionSheet'] | null | undefined): string | null =>
  sheet?.fileAbout?.metric ?? null;
