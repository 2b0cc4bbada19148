import type jsep from 'jsep';
import { closest } from 'fastest-levenshtein';
import { SieveError } from '../../foundation/errors.js';
import { timeOf } from '../table/cell.js';
import { isCoded, type Table } from '../table/table.js';
import type { Compiled, Type } from './compiled.js';
import { FUNCTIONS } from './functions.js';
import { TEXT_FUNCTIONS, textCall } from './text-functions.js';

const DAY = 86_400_000;

export const fail = (field: string, message: string): SieveError =>
  new SieveError('formula', message, { field });

const WORDS: Readonly<Record<Type, string>> = {
  number: 'a number',
  time: 'a date',
  truth: 'true or false',
  text: 'a text',
};

/** @throws SieveError `formula` where a name is not known or a part is of the wrong type */
export function compileFormula(node: jsep.CoreExpression, table: Table, field: string): Compiled {
  const compile = (part: jsep.Expression) => compileFormula(core(part), table, field);
  switch (node.type) {
    case 'Literal':
      return literal(node.value, field);
    case 'Identifier':
      return columnValue(node.name, table, field);
    case 'UnaryExpression': {
      const { operator, argument } = node;
      const inner = compile(argument);
      if (operator === 'not') {
        const of = asTruth(inner, 'not', field);
        return { type: 'truth', of: (row) => 1 - of(row) };
      }
      const of = asNumber(inner, '−', field);
      return { type: 'number', of: (row) => -of(row) };
    }
    case 'BinaryExpression': {
      return binary(node.operator, compile(node.left), compile(node.right), field);
    }
    case 'ConditionalExpression': {
      return conditional(compile(node.test), compile(node.consequent), compile(node.alternate), field);
    }
    case 'CallExpression': {
      const callee = core(node.callee);
      const name = callee.type === 'Identifier' ? callee.name : '';
      return call(name, node.arguments.map(core), table, field);
    }
    case 'Compound':
      throw fail(
        field,
        'A formula is one expression; a column with blanks in its name is written col("its name").',
      );
    case 'ArrayExpression':
    case 'MemberExpression':
    case 'SequenceExpression':
    case 'ThisExpression':
      throw fail(field, 'A formula has columns, values, operators and functions, and nothing else.');
  }
}

/** Without plug-ins, every node that jsep makes is one of its own kinds. */
export const core = (node: jsep.Expression): jsep.CoreExpression => node as jsep.CoreExpression;

function literal(value: unknown, field: string): Compiled {
  if (typeof value === 'number') return { type: 'number', of: () => value };
  if (typeof value === 'boolean') return { type: 'truth', of: () => Number(value) };
  if (typeof value === 'string') return { type: 'text', of: () => value, literal: value };
  throw fail(field, 'A missing value is asked for with missing(column).');
}

function columnValue(name: string, table: Table, field: string): Compiled {
  const column = table.columns.find((c) => c.name === name);
  if (!column) {
    const names = table.columns.map((c) => c.name);
    throw fail(field, `There is no column “${name}”; the nearest is “${closest(name, names)}”.`);
  }
  if (!isCoded(column)) return { type: column.kind, of: (row) => column.values[row] ?? NaN };
  const { levels, codes } = column;
  if (column.kind !== 'boolean') return { type: 'text', of: (row) => levels[codes[row] ?? -1] ?? null };
  const truths = levels.map((level) => (level.toLowerCase() === 'true' ? 1 : 0));
  return { type: 'truth', of: (row) => truths[codes[row] ?? -1] ?? NaN };
}

function typed(type: 'number' | 'truth') {
  return (part: Compiled, by: string, field: string): ((row: number) => number) => {
    if (part.type !== type) throw fail(field, `${by} needs ${WORDS[type]}, and this is ${WORDS[part.type]}.`);
    return part.of;
  };
}
const asNumber = typed('number');
const asTruth = typed('truth');

const ARITHMETIC: Readonly<Record<string, (a: number, b: number) => number>> = {
  '+': (a, b) => a + b,
  '-': (a, b) => a - b,
  '*': (a, b) => a * b,
  '/': (a, b) => a / b,
  '%': (a, b) => a - b * Math.floor(a / b),
  '^': (a, b) => a ** b,
  '**': (a, b) => a ** b,
};
const COMPARISONS: Readonly<Record<string, (order: number) => boolean>> = {
  '==': (order) => order === 0,
  '!=': (order) => order !== 0,
  '<': (order) => order < 0,
  '<=': (order) => order <= 0,
  '>': (order) => order > 0,
  '>=': (order) => order >= 0,
};

function binary(operator: string, left: Compiled, right: Compiled, field: string): Compiled {
  const holds = COMPARISONS[operator];
  if (holds) return compared(operator, holds, left, right, field);
  if (operator === 'and' || operator === '&&' || operator === 'or' || operator === '||') {
    const [a, b] = [asTruth(left, operator, field), asTruth(right, operator, field)];
    // Kleene's logic: what decides the outcome by itself does so beside a missing value too.
    const decisive = operator === 'and' || operator === '&&' ? 0 : 1;
    return {
      type: 'truth',
      of: (row) => {
        const [x, y] = [a(row), b(row)];
        if (x === decisive || y === decisive) return decisive;
        return Number.isNaN(x) || Number.isNaN(y) ? NaN : 1 - decisive;
      },
    };
  }
  if (operator === '-' && left.type === 'time' && right.type === 'time')
    return { type: 'number', of: (row) => (left.of(row) - right.of(row)) / DAY };
  const compute = ARITHMETIC[operator];
  if (!compute) throw fail(field, `“${operator}” is no operator of formulas.`);
  const [a, b] = [asNumber(left, operator, field), asNumber(right, operator, field)];
  return { type: 'number', of: (row) => compute(a(row), b(row)) };
}

function compared(
  operator: string,
  holds: (order: number) => boolean,
  left: Compiled,
  right: Compiled,
  field: string,
): Compiled {
  const [a, b] = [dated(left, right, field), dated(right, left, field)];
  if (a.type === 'text' && b.type === 'text')
    return {
      type: 'truth',
      of: (row) => {
        const [x, y] = [a.of(row), b.of(row)];
        return x === null || y === null ? NaN : Number(holds(x < y ? -1 : x > y ? 1 : 0));
      },
    };
  if (a.type === 'text' || b.type === 'text' || a.type !== b.type)
    throw fail(field, `“${operator}” compares ${WORDS[a.type]} with ${WORDS[b.type]}; they must be alike.`);
  return {
    type: 'truth',
    of: (row) => {
      const order = a.of(row) - b.of(row);
      return Number.isNaN(order) ? NaN : Number(holds(order));
    },
  };
}

/** A text as written in a formula, as a date where it is compared with one. */
function dated(part: Compiled, other: Compiled, field: string): Compiled {
  if (other.type !== 'time' || part.type !== 'text' || part.literal === undefined) return part;
  const time = timeOf(part.literal);
  if (!time) throw fail(field, `“${part.literal}” is no date; write one as "2026-03-01".`);
  return { type: 'time', of: () => time.value };
}

function conditional(test: Compiled, yes: Compiled, no: Compiled, field: string): Compiled {
  const holds = asTruth(test, 'if', field);
  if (yes.type === 'text' && no.type === 'text')
    return {
      type: 'text',
      of: (row) => {
        const truth = holds(row);
        return Number.isNaN(truth) ? null : truth === 1 ? yes.of(row) : no.of(row);
      },
    };
  if (yes.type === 'text' || no.type === 'text' || yes.type !== no.type)
    throw fail(
      field,
      `Both outcomes of a condition must be alike: these are ${WORDS[yes.type]} and ${WORDS[no.type]}.`,
    );
  return {
    type: yes.type,
    of: (row) => {
      const truth = holds(row);
      return Number.isNaN(truth) ? NaN : truth === 1 ? yes.of(row) : no.of(row);
    },
  };
}

function call(name: string, given: readonly jsep.CoreExpression[], table: Table, field: string): Compiled {
  if (name === 'col') {
    const text = given.length === 1 && given[0]?.type === 'Literal' ? given[0].value : undefined;
    if (typeof text !== 'string') throw fail(field, 'col takes the name of a column in quotation marks.');
    return columnValue(text, table, field);
  }
  const parts = given.map((part) => compileFormula(part, table, field));
  const [first, second, third] = parts;
  if (name === 'if') {
    if (!first || !second || !third || parts.length > 3)
      throw fail(field, 'if takes a condition, what is where it holds, and what is where it does not.');
    return conditional(first, second, third, field);
  }
  if (name === 'missing') {
    if (!first || parts.length > 1) throw fail(field, 'missing takes one column.');
    return {
      type: 'truth',
      of:
        first.type === 'text'
          ? (row) => Number(first.of(row) === null)
          : (row) => Number(Number.isNaN(first.of(row))),
    };
  }
  const ofTexts = Object.entries(TEXT_FUNCTIONS).find(([key]) => key === name)?.[1];
  if (ofTexts) {
    const { takes } = ofTexts;
    if (parts.length !== takes.length || parts.some(({ type }, i) => type !== takes[i]))
      throw fail(field, `${name} takes ${takes.map((type) => WORDS[type]).join(', ')}.`);
    return textCall(ofTexts, parts);
  }
  const known = Object.entries(FUNCTIONS).find(([key]) => key === name)?.[1];
  if (!known)
    throw fail(
      field,
      `There is no function “${name}”; there are ${[...Object.keys(FUNCTIONS), ...Object.keys(TEXT_FUNCTIONS), 'if', 'missing', 'col'].join(', ')}.`,
    );
  if (parts.length < known.takes[0] || parts.length > known.takes[1])
    throw fail(
      field,
      `${name} takes ${known.takes[0] === known.takes[1] ? known.takes[0] : `${known.takes[0]} or more`} numbers.`,
    );
  const numbers = parts.map((part) => asNumber(part, name, field));
  return { type: 'number', of: (row) => known.compute(numbers.map((of) => of(row))) };
}
