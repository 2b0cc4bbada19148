/** Significant digits that are read here; texts with more are left to the engine. */
const MOST_DIGITS = 19;
/** Digits that a double always holds exactly. */
const EXACT_DIGITS = 15;
/** Powers of ten up to the last that is exact as a double. */
const POWERS_OF_TEN = Array.from({ length: 23 }, (_, i) => Number(`1e${i}`));
const [ZERO, NINE, POINT, PLUS, MINUS, E, SMALL_E] = [48, 57, 46, 43, 45, 69, 101];

/** Splits a double into two halves of its bits (Dekker, 1971). */
const SPLITTER = 2 ** 27 + 1;
/** More than the relative error of what is left after one division or product of doubles. */
const DOUBT = 2 ** -48;

/**
 * The number that is written from one byte to before another, correctly rounded, in the forms `12`, `-0.5`, `.5`,
 * `6.02e23`; NaN for everything else, and for a number that takes a slower reader: with more than 19 digits, a power of ten
 * beyond ±22, a leading zero as codes have, or an integer beyond 2^53.
 *
 * Up to 2^53, digits and power of ten are exact, so that one operation rounds once (Clinger, How to read floating point
 * numbers accurately, 1990). Beyond that the digits are the sum of two doubles, what the operation leaves is found exactly
 * (Dekker, A floating-point technique for extending the available precision, 1971), and a result is given only where
 * its error cannot change how it is rounded.
 */
export function decimalIn(bytes: Uint8Array, from: number, to: number): number {
  let i = from;
  const sign = bytes[i] ?? 0;
  if (sign === MINUS || sign === PLUS) i++;
  const first = i;
  let high = 0;
  let low = 0;
  let significant = 0;
  let point = -1;
  for (; i < to; i++) {
    const code = bytes[i] ?? 0;
    if (code >= ZERO && code <= NINE) {
      if (significant < EXACT_DIGITS) high = high * 10 + code - ZERO;
      else low = low * 10 + code - ZERO;
      if (significant > 0 || code !== ZERO) significant++;
    } else if (code === POINT && point < 0) point = i;
    else break;
  }
  const whole = (point < 0 ? i : point) - first;
  const behind = point < 0 ? 0 : i - point - 1;
  if (whole + behind === 0 || significant > MOST_DIGITS || (whole > 1 && bytes[first] === ZERO)) return NaN;
  let power = -behind;
  if (i < to) {
    const exponent = exponentIn(bytes, i, to);
    if (Number.isNaN(exponent)) return NaN;
    power += exponent;
  }
  const isInteger = point < 0 && i === to;
  const value = scaled(high, low, Math.max(0, significant - EXACT_DIGITS), power, isInteger);
  return sign === MINUS ? -value : value;
}

/** The power of ten after an `e`; NaN for anything else. */
function exponentIn(bytes: Uint8Array, from: number, to: number): number {
  let i = from;
  if (bytes[i] !== E && bytes[i] !== SMALL_E) return NaN;
  i++;
  const sign = bytes[i] ?? 0;
  if (i < to && (sign === MINUS || sign === PLUS)) i++;
  // Four digits are beyond every double.
  if (i === to || to - i > 4) return NaN;
  let exponent = 0;
  for (; i < to; i++) {
    const code = bytes[i] ?? 0;
    if (code < ZERO || code > NINE) return NaN;
    exponent = exponent * 10 + code - ZERO;
  }
  return sign === MINUS ? -exponent : exponent;
}

/** Digits, of which the last `behind` are in `low`, times a power of ten. */
function scaled(high: number, low: number, behind: number, power: number, isInteger: boolean): number {
  const shift = POWERS_OF_TEN[behind] ?? 1;
  const digits = high * shift + low;
  if (digits <= Number.MAX_SAFE_INTEGER) {
    if (power === 0) return digits;
    const by = POWERS_OF_TEN[power < 0 ? -power : power];
    if (by === undefined) return digits === 0 ? 0 : NaN;
    return power < 0 ? digits / by : digits * by;
  }
  const by = POWERS_OF_TEN[power < 0 ? -power : power];
  if (isInteger || by === undefined) return NaN;
  // What `high * shift` and the sum lose: `sum + lost` are the digits exactly.
  const product = high * shift;
  const productLost = lostIn(product, high, shift);
  const sum = product + low;
  const lost = low - (sum - product) + productLost;
  if (power > 0) {
    const value = sum * by;
    return onlyRounding(value, lostIn(value, sum, by), lost * by);
  }
  const value = sum / by;
  return onlyRounding(value, (sum - value * by - lostIn(value * by, value, by)) / by, lost / by);
}

/** The sum of a double and two small ones that are a little uncertain; NaN where that could change how it is rounded. */
function onlyRounding(value: number, one: number, other: number): number {
  const rest = one + other;
  const doubt = DOUBT * (Math.abs(one) + Math.abs(other));
  const rounded = value + rest;
  return value + (rest + doubt) === rounded && value + (rest - doubt) === rounded ? rounded : NaN;
}

/** What a product of two doubles loses when it is rounded, exactly. */
function lostIn(product: number, a: number, b: number): number {
  const [aHigh, bHigh] = [upperHalf(a), upperHalf(b)];
  const [aLow, bLow] = [a - aHigh, b - bHigh];
  return aLow * bLow - (product - aHigh * bHigh - aLow * bHigh - aHigh * bLow);
}

function upperHalf(value: number): number {
  const large = SPLITTER * value;
  return large - (large - value);
}
