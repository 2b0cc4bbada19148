import { normalAt, normalBelow } from '../../../foundation/statistics/distributions.js';
import { type Value } from './row.js';

type Numbers = (...values: number[]) => number;

/** The built-in functions of numbers, of PMML 4.4: missing where an operand is, or where the result is no finite number. */
export const OF_NUMBERS: Readonly<Record<string, { readonly takes: number; readonly of: Numbers }>> = {
  '-': { takes: 2, of: (a, b) => a - b },
  '/': { takes: 2, of: (a, b) => a / b },
  log10: { takes: 1, of: Math.log10 },
  ln: { takes: 1, of: Math.log },
  ln1p: { takes: 1, of: Math.log1p },
  sqrt: { takes: 1, of: Math.sqrt },
  abs: { takes: 1, of: Math.abs },
  exp: { takes: 1, of: Math.exp },
  expm1: { takes: 1, of: Math.expm1 },
  pow: { takes: 2, of: (a, b) => a ** b },
  hypot: { takes: 2, of: Math.hypot },
  threshold: { takes: 2, of: (a, b) => (a > b ? 1 : 0) },
  floor: { takes: 1, of: Math.floor },
  ceil: { takes: 1, of: Math.ceil },
  // Halves go up; `rint` takes them to the even neighbour.
  round: { takes: 1, of: (a) => Math.floor(a + 0.5) },
  rint: { takes: 1, of: (a) => (Math.abs(a % 1) === 0.5 ? 2 * Math.round(a / 2) : Math.round(a)) },
  modulo: { takes: 2, of: (a, b) => a - b * Math.floor(a / b) },
  sin: { takes: 1, of: Math.sin },
  asin: { takes: 1, of: Math.asin },
  sinh: { takes: 1, of: Math.sinh },
  cos: { takes: 1, of: Math.cos },
  acos: { takes: 1, of: Math.acos },
  cosh: { takes: 1, of: Math.cosh },
  tan: { takes: 1, of: Math.tan },
  atan: { takes: 1, of: Math.atan },
  atan2: { takes: 2, of: Math.atan2 },
  tanh: { takes: 1, of: Math.tanh },
  erf: { takes: 1, of: (a) => 2 * normalBelow(a * Math.SQRT2) - 1 },
  stdNormalCDF: { takes: 1, of: normalBelow },
  stdNormalPDF: { takes: 1, of: (z) => density(z) },
  stdNormalIDF: { takes: 1, of: normalAt },
  normalCDF: { takes: 3, of: (x, mean, sd) => normalBelow((x - mean) / sd) },
  normalPDF: { takes: 3, of: (x, mean, sd) => density((x - mean) / sd) / sd },
  normalIDF: { takes: 3, of: (p, mean, sd) => mean + sd * normalAt(p) },
};

const density = (z: number) => Math.exp(-(z ** 2) / 2) / Math.sqrt(2 * Math.PI);

/** Functions of any count of numbers; missing operands are left out, except of sums and products of two. */
export const OF_MANY: Readonly<Record<string, (values: readonly number[]) => number>> = {
  min: (values) => Math.min(...values),
  max: (values) => Math.max(...values),
  sum: (values) => values.reduce((a, b) => a + b, 0),
  avg: (values) => values.reduce((a, b) => a + b, 0) / values.length,
  product: (values) => values.reduce((a, b) => a * b, 1),
  median: (values) => {
    const sorted = [...values].sort((a, b) => a - b);
    const middle = sorted.length / 2;
    return ((sorted[Math.ceil(middle) - 1] ?? NaN) + (sorted[Math.floor(middle)] ?? NaN)) / 2;
  },
};

export const COMPARISONS: Readonly<Record<string, (order: number) => boolean>> = {
  equal: (order) => order === 0,
  notEqual: (order) => order !== 0,
  lessThan: (order) => order < 0,
  lessOrEqual: (order) => order <= 0,
  greaterThan: (order) => order > 0,
  greaterOrEqual: (order) => order >= 0,
};

export const TEXTS: Readonly<Record<string, (text: string) => Value>> = {
  uppercase: (text) => text.toUpperCase(),
  lowercase: (text) => text.toLowerCase(),
  stringLength: (text) => text.length,
  trimBlanks: (text) => text.trim(),
};
