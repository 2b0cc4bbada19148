import { shortNumber } from '@modest-sieve/core/foundation';
import { useDataSet } from '../use-data-set.js';

const DAY = 24 * 3600 * 1000;

/** Writes the values of a column as a model has them: dates are counted in days there. */
export function useColumnText(): (column: string) => (value: number | string) => string {
  const { dataSet } = useDataSet();
  return (column) => {
    const isDate = dataSet.profile.find(({ name }) => name === column)?.kind === 'time';
    return (value) => {
      if (typeof value === 'string') return value;
      return isDate ? new Date(value * DAY).toISOString().slice(0, 10) : shortNumber(value);
    };
  };
}
