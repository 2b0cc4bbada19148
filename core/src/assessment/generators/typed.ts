/** A number as somebody typed it. */
export interface Typed {
  readonly value: number;
  /** Digits after the point, of the number as a fraction where it was typed as a percentage. */
  readonly decimals: number;
  /** The step of the last digit typed. */
  readonly unit: number;
}

const PLAIN = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE]([+-]?\d+))?$/;
const WITH_UNIT = /^([+-]?[\d.,\s]+?)\s*([a-zA-Zµ°€$£²³/]+)$/;

/**
 * A typed number, or what is wrong with it. Percentages are taken as they are meant: 86.9 % is 0.869. Nothing else is
 * guessed: a decimal comma, thousands apart or a unit are said, since a silent repair could be the wrong one.
 */
export function typedNumber(text: string): Typed | { readonly wrong: string } {
  // A minus as word processors and formulas write it.
  const trimmed = text.trim().replace(/[−–]/g, '-');
  if (trimmed === '') return { wrong: 'is missing' };
  const isPercent = trimmed.endsWith('%');
  const bare = isPercent ? trimmed.slice(0, -1).trim() : trimmed;
  const match = PLAIN.exec(bare);
  if (!match) return { wrong: whatIsWrong(bare) };
  const [mantissa = ''] = bare.split(/[eE]/);
  const point = mantissa.indexOf('.');
  const decimals =
    (point < 0 ? 0 : mantissa.length - point - 1) - Number(match[1] ?? 0) + (isPercent ? 2 : 0);
  const value = isPercent ? Number(bare) / 100 : Number(bare);
  if (!Number.isFinite(value)) return { wrong: 'is beyond what a number may be' };
  return { value, decimals: Math.max(0, decimals), unit: 10 ** -decimals };
}

function whatIsWrong(text: string): string {
  const withUnit = WITH_UNIT.exec(text);
  if (withUnit && /\d/.test(withUnit[1] ?? ''))
    return `has the unit “${withUnit[2] ?? ''}”; type the number alone`;
  if (/^[+-]?[1-9]\d{0,2}(,\d{3})+(\.\d+)?$/.test(text))
    return 'has thousands set apart by commas; leave them out';
  if (/^[+-]?\d*,\d+$/.test(text)) return `has a decimal comma; write ${text.replace(',', '.')}`;
  if (/^[+-]?\d{1,3}([ '’]\d{3})+(\.\d+)?$/.test(text))
    return 'has thousands set apart; leave the blanks out';
  if (/^[+-]?\d+\s*\/\s*\d+$/.test(text)) return 'is a fraction; write it with a decimal point';
  if (/^[+-]?inf(inity)?$|^∞$/i.test(text)) return 'is infinite; a finite number is needed';
  return 'is not a number';
}
