import { counted } from '../../../foundation/numbers.js';
import { metricNamed } from '../../../metrics/registry.js';
import type { MarkScheme } from '../../marking/scheme.js';
import { furtherTitle, type FurtherFigure, type FurtherSaid } from './further.js';

/** As much of a question as a metric on the final rows is marked by. */
export interface Scheduled {
  readonly metric: string;
  readonly scheme: MarkScheme;
  readonly further?: readonly FurtherFigure[];
}

/** What the rules say of further figures, and what files must give for all figures. */
export function scheduledRules({ metric, scheme, further = [] }: Scheduled) {
  const needs = [metric, ...further.map((one) => one.metric)].map((key) => metricNamed(key).needs);
  return {
    metric,
    scheme,
    needs: needs.includes('probabilities') ? 'probabilities' : metricNamed(metric).needs,
    ...(further.length === 0
      ? {}
      : {
          further: further.map((one) => ({ title: furtherTitle(one), marks: one.scheme.marks })),
        }),
  } as const;
}

/** Further figures as students read of them; empty where there are none. */
export const furtherSaid = (further: readonly FurtherSaid[] | undefined): string =>
  further === undefined
    ? ''
    : ` Also marked, on the final rows: ${further.map(({ title, marks }) => `${title} (${counted(marks, 'mark')})`).join('; ')}. They are shown when the exercise is returned.`;

/** All marks of a question that is marked by figures. */
export const scheduledMarks = ({ scheme, further = [] }: Pick<Scheduled, 'scheme' | 'further'>): number =>
  further.reduce((sum, one) => sum + one.scheme.marks, scheme.marks);
