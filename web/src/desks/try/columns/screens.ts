import type { ScreenBy, Screening } from '@modest-sieve/core/models';

/** Ways of setting a column against the target, and what their statistic is called. */
export const SCREEN_CHOICES: readonly {
  readonly value: ScreenBy;
  readonly text: string;
  readonly statistic: string;
}[] = [
  { value: 'anova', text: 'analysis of variance', statistic: 'F' },
  { value: 'chi-square', text: 'chi-square', statistic: 'chi-square' },
  { value: 'mutual-information', text: 'mutual information', statistic: 'information, nats' },
];

/** A screening of a run in a few words; empty where it has none. */
export const screeningText = (screening: Screening | null | undefined): string =>
  screening
    ? `the ${screening.keep === 1 ? '' : `${screening.keep} `}strongest by ${SCREEN_CHOICES.find(({ value }) => value === screening.by)?.text ?? screening.by}`
    : '';
