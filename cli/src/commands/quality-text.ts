import type { Check } from '@modest-sieve/core/foundation';

const MARKS = { holds: '+', fails: '−', unsure: '?' } as const;

/** Checks as lines: a sign for the outcome, what was found, and what should have been where it was not. */
export const qualityText = (checks: readonly Check[]): string =>
  checks
    .map(({ outcome, message, measured, expected, examples }) => {
      const figures = [measured, outcome === 'holds' || expected === null ? null : `expected ${expected}`];
      const more = figures.filter((figure) => figure !== null).join('; ');
      const named = outcome === 'holds' ? [] : examples.map((example) => example.text);
      return [
        `${MARKS[outcome]} ${message}${more === '' ? '' : ` (${more})`}`,
        ...(named.length > 0 ? [`    for instance ${named.join(', ')}`] : []),
      ].join('\n');
    })
    .join('\n');
