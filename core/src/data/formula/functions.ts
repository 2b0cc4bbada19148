/** A function of formulas: how many numbers it takes, at least and at most, and what it gives. */
interface FormulaFunction {
  readonly takes: readonly [number, number];
  readonly compute: (values: readonly number[]) => number;
}

const one = (compute: (x: number) => number): FormulaFunction => ({
  takes: [1, 1],
  compute: ([x = NaN]) => compute(x),
});
const any = (compute: (...values: number[]) => number): FormulaFunction => ({
  takes: [1, Infinity],
  compute: (values) => compute(...values),
});

/** Halves go to the even neighbour, as in IEEE 754, R and numpy. */
function roundHalfEven(x: number): number {
  const below = Math.floor(x);
  if (x - below !== 0.5) return Math.round(x);
  return below % 2 === 0 ? below : below + 1;
}

/** The functions of formulas beside `if`, `missing` and `col`; logarithms are natural but for log10. */
export const FUNCTIONS: Readonly<Record<string, FormulaFunction>> = {
  abs: one(Math.abs),
  sqrt: one(Math.sqrt),
  log: one(Math.log),
  log10: one(Math.log10),
  exp: one(Math.exp),
  round: one(roundHalfEven),
  floor: one(Math.floor),
  ceil: one(Math.ceil),
  min: any(Math.min),
  max: any(Math.max),
};
