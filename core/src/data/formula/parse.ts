import jsep from 'jsep';
import { core, fail } from './compile.js';

// The language of formulas is what jsep parses, less what makes no sense of columns, and with words for its marks.
for (const operator of ['|', '&', '<<', '>>', '>>>', '===', '!==', '??']) jsep.removeBinaryOp(operator);
for (const operator of ['~', '+', '!']) jsep.removeUnaryOp(operator);
jsep.addBinaryOp('or', 1);
jsep.addBinaryOp('and', 2);
jsep.addBinaryOp('^', 11, true);
jsep.addUnaryOp('not');
jsep.removeLiteral('this');

/** Characters of a formula at most. */
const LONGEST = 2000;

/** @throws SieveError `formula` with the place in the text */
export function parseFormula(text: string, field: string): jsep.CoreExpression {
  if (text.trim() === '') throw fail(field, 'A formula is needed.');
  if (text.length > LONGEST) throw fail(field, `A formula has at most ${LONGEST} characters.`);
  try {
    return core(jsep(text));
  } catch (error) {
    const { index, description } = error as { index?: number; description?: string };
    const alone = /[^=!<>]=[^=]/.test(text) ? ' Two values are compared with ==.' : '';
    throw fail(
      field,
      `The formula cannot be read at character ${(index ?? 0) + 1}: ${(description ?? 'unexpected').toLowerCase()}.${alone}`,
    );
  }
}
