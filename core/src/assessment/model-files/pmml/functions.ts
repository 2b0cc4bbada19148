import type { Expression } from './expression.js';
import { asType, numberFrom, type Value } from './row.js';
import { refused, unsupported, type Element } from './xml.js';
import { OF_NUMBERS, OF_MANY, COMPARISONS, TEXTS } from './function-tables.js';

const finite = (value: number): Value => (Number.isFinite(value) ? value : null);

/** An operand compared with another: as numbers where either is one, as truth values, or as texts. */
function compared(a: Expression, b: Expression): (x: Value, y: Value) => number | null {
  const isNumber = [a, b].some(({ type }) => type === 'number' || type === 'float');
  const isTruth = [a, b].some(({ type }) => type === 'boolean');
  return (x, y) => {
    if (x === null || y === null) return null;
    const type = isNumber ? 'number' : isTruth ? 'boolean' : 'string';
    const [one, other] = [asType(x, type), asType(y, type)];
    if (one === null || other === null) return null;
    return one < other ? -1 : one > other ? 1 : 0;
  };
}

/**
 * A built-in function of its operands.
 *
 * @throws SieveError `model-file` where it is not supported, or takes another count of values
 */
export function functionNamed(name: string, operands: readonly Expression[], element: Element): Expression {
  const takes = (least: number, most = least) => {
    if (operands.length < least || operands.length > most)
      throw refused(`“${name}” is given ${operands.length} values.`, element.line);
  };
  const operand = (i: number): Expression => operands[i] ?? { type: 'string', get: () => null };
  const [first, second, third] = [operand(0), operand(1), operand(2)];
  const truth = (get: Expression['get']): Expression => ({ type: 'boolean', get });

  const numeric = OF_NUMBERS[name];
  if (numeric && !(name === '-' && operands.length === 1)) {
    takes(numeric.takes);
    return {
      type: 'number',
      get(row) {
        const values: number[] = [];
        for (const { get } of operands) {
          const value = numberFrom(get(row));
          if (value === null) return null;
          values.push(value);
        }
        return finite(numeric.of(...values));
      },
    };
  }
  if (name === '-')
    return {
      type: 'number',
      get(row) {
        const value = numberFrom(first.get(row));
        return value === null ? null : -value;
      },
    };
  if (name === '+' || name === '*') {
    takes(2);
    if (name === '+' && first.type === 'string' && second.type === 'string')
      return functionNamed('concat', operands, element);
    return {
      type: 'number',
      get(row) {
        const [a, b] = [numberFrom(first.get(row)), numberFrom(second.get(row))];
        return a === null || b === null ? null : finite(name === '+' ? a + b : a * b);
      },
    };
  }
  const many = OF_MANY[name];
  if (many) {
    takes(1, Infinity);
    return {
      type: 'number',
      get(row) {
        const values = operands.flatMap(({ get }) => numberFrom(get(row)) ?? []);
        return values.length === 0 ? null : finite(many(values));
      },
    };
  }
  const comparison = COMPARISONS[name];
  if (comparison) {
    takes(2);
    const order = compared(first, second);
    return truth((row) => {
      const found = order(first.get(row), second.get(row));
      return found === null ? null : comparison(found);
    });
  }
  const textual = TEXTS[name];
  if (textual) {
    takes(1);
    return {
      type: name === 'stringLength' ? 'number' : 'string',
      get(row) {
        const value = first.get(row);
        return value === null ? null : textual(String(value));
      },
    };
  }
  switch (name) {
    case 'isMissing':
    case 'isNotMissing':
    case 'isValid':
    case 'isNotValid': {
      takes(1);
      const wanted = name === 'isMissing' || name === 'isNotValid';
      return truth((row) => (first.get(row) === null) === wanted);
    }
    case 'isIn':
    case 'isNotIn': {
      takes(2, Infinity);
      const orders = operands.slice(1).map((other) => ({ other, order: compared(first, other) }));
      return truth((row) => {
        const value = first.get(row);
        if (value === null) return null;
        const isIn = orders.some(({ other, order }) => order(value, other.get(row)) === 0);
        return isIn === (name === 'isIn');
      });
    }
    case 'and':
    case 'or': {
      takes(2, Infinity);
      // One that decides does so beside missing ones: three-valued logic.
      const decides = name === 'or';
      return truth((row) => {
        let isKnown = true;
        for (const { get } of operands) {
          const value = asType(get(row), 'boolean');
          if (value === decides) return decides;
          if (value === null) isKnown = false;
        }
        return isKnown ? !decides : null;
      });
    }
    case 'not':
      takes(1);
      return truth((row) => {
        const value = asType(first.get(row), 'boolean');
        return value === null ? null : !value;
      });
    case 'if':
      takes(2, 3);
      return {
        type: second.type,
        get(row) {
          const value = asType(first.get(row), 'boolean');
          return value === null ? null : value === true ? second.get(row) : third.get(row);
        },
      };
    case 'concat':
      takes(2, Infinity);
      return {
        type: 'string',
        get(row) {
          const values = operands.map(({ get }) => get(row));
          return values.includes(null) ? null : values.map(String).join('');
        },
      };
    case 'substring':
      takes(3);
      return {
        type: 'string',
        get(row) {
          const [text, from, length] = [
            first.get(row),
            numberFrom(second.get(row)),
            numberFrom(third.get(row)),
          ];
          if (text === null || from === null || length === null) return null;
          return String(text).slice(from - 1, from - 1 + length);
        },
      };
    default:
      throw unsupported(element, `the function “${name}”`);
  }
}
