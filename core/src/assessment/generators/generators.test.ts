import { describe, expect, it } from '@jest/globals';
import { secretOf, seedsOf } from '../../../test/secrets.js';
import type { Respondent } from './respondent.js';
import fc from 'fast-check';
import { iris, testFile } from '../../../test/files.js';
import { IRIS_ROLES } from '../../../test/plans.js';
import { at } from '../../foundation/numbers.js';
import { newPlan } from '../../data/sentence/sentence.js';
import { generate } from './generate.js';
import type { GeneratedItem } from './generator.js';
import { GENERATORS, generatorOf } from './registry.js';
import { accepts, TOLERANCE_KINDS } from './tolerance.js';
import { typedNumber } from './typed.js';

/** Draws under fixed seeds, and what their figures come to by other libraries: see draws.py beside the file. */
interface Fixture {
  readonly draws: readonly {
    readonly kind: string;
    readonly who: string;
    readonly given: Record<string, string>;
    readonly expected: Record<string, number>;
  }[];
}
const fixture = JSON.parse(new TextDecoder().decode(testFile('reference/draws.json'))) as Fixture;

/** A plan that asks for every figure of a kind. */
const everything = (key: string) => {
  const kind = generatorOf({ kind: key });
  const plan = newPlan(kind, []);
  const { asked } = kind.parameters;
  return asked?.type === 'several' ? { ...plan, values: { ...plan.values, asked: asked.choices } } : plan;
};
const byChance = GENERATORS.filter(({ from }) => from === 'chance');
/** The fixture was made when variants followed from a seed. */
const by = (id: string): Respondent => ({ secret: seedsOf(20261126), question: 'q1', id });

describe('figures of draws', () => {
  it('cover every kind that is drawn, several times', () => {
    expect(new Set(fixture.draws.map(({ kind }) => kind))).toEqual(new Set(byChance.map(({ key }) => key)));
  });

  it.each(fixture.draws.map((draw) => [draw.kind, draw.who, draw] as const))(
    '%s for %s are those of scikit-learn, SciPy, statsmodels or the formula named there',
    (kind, who, { given, expected }) => {
      const drawn = generate(everything(kind), by(who));
      expect(drawn.given).toEqual(given);
      expect(drawn.asked.map(({ name }) => name)).toEqual(Object.keys(expected));
      for (const { name, figure } of drawn.asked) expect(figure.value).toBeCloseTo(expected[name] ?? NaN, 9);
    },
  );

  it('that are known from elsewhere: e^0.211 as an odds ratio, a grid of 8 × 4 over 10 folds, 1,000 rows at 30 %', () => {
    const found = (kind: string, wanted: Record<string, string>, name: string) => {
      for (let i = 0; i < 60_000; i++) {
        const drawn = generate(everything(kind), by(`student ${i}`));
        if (Object.entries(wanted).every(([key, value]) => drawn.given[key] === value))
          return drawn.asked.find((asked) => asked.name === name)?.figure.value;
      }
      throw new Error('never drawn');
    };
    expect(found('inference', { coefficient: '0.211' }, 'odds ratio')).toBeCloseTo(1.235, 3);
    expect(found('grid-fits', { a: '8', b: '4', k: '10' }, 'fits')).toBe(320);
    expect(found('split-sizes', { n: '4,000', share: '30' }, 'training rows')).toBe(2800);
  });
});

describe('a draw', () => {
  const texts = ({ given, table }: GeneratedItem) => JSON.stringify({ given, table });

  it.each(byChance.map(({ key }) => key))(
    'of %s is the same for a student each time, another for another',
    (key) => {
      const plan = everything(key);
      expect(generate(plan, by('a'))).toEqual(generate(plan, by('a')));
      expect(generate(plan, { ...by('a'), secret: secretOf(1) })).not.toEqual(
        generate(plan, { ...by('a'), secret: secretOf(1), question: 'q2' }),
      );
      const own = new Set(Array.from({ length: 20 }, (_, i) => texts(generate(plan, by(`student ${i}`)))));
      expect(own.size).toBeGreaterThan(15);
    },
  );

  it('is never dealt with a figure that is undefined, and names every placeholder of its text', () => {
    fc.assert(
      fc.property(fc.constantFrom(...byChance), fc.string(), fc.nat(), (kind, who, of) => {
        const drawn = generate(everything(kind.key), { secret: secretOf(of), question: 'q1', id: who });
        for (const { figure } of drawn.asked) expect(Number.isFinite(figure.value)).toBe(true);
        for (const [, name = ''] of kind.text.matchAll(/\{(\w+)\}/g)) expect(drawn.given[name]).toBeTruthy();
        expect(new Set(drawn.asked.map(({ key }) => key)).size).toBe(drawn.asked.length);
      }),
      { numRuns: 300 },
    );
  });

  it('that cannot have all its figures is given up with the reason', () => {
    const plan = everything('probabilities');
    // Probabilities end at 0.98: nothing is named “yes” from 0.99 up.
    const rare = { ...plan, values: { ...plan.values, rows: 6, threshold: 0.99, asked: ['precision'] } };
    expect(() => generate(rare, by('a'))).toThrow(/No draw in 200 has every figure \(precision: .+\)/);
  });
});

describe('what is computed from the data', () => {
  const material = { table: iris(), roles: IRIS_ROLES };
  const compute = (key: string, values: Record<string, string | number | readonly string[]>) => {
    const kind = generatorOf({ kind: key });
    if (kind.from !== 'data') throw new Error('drawn');
    return kind.compute({ ...newPlan(kind, material.table.columns).values, ...values }, material);
  };

  it('are the known figures of iris', () => {
    // Fisher (1936): mean 5.843, standard deviation 0.828 of sepal length; from memory, and as R prints them.
    const { asked } = compute('column-summary', {
      column: 'sepal_length',
      asked: ['mean', 'standard deviation', 'smallest'],
    });
    expect(asked.map(({ figure }) => figure.value)).toEqual([
      expect.closeTo(5.843333, 6),
      expect.closeTo(0.828066, 6),
      4.3,
    ]);
  });

  it('is a range over seeds that holds the share of the scores that it says', () => {
    const of = (central: number) => {
      const { asked } = compute('seeded-score', { model: 'nearest', metric: 'accuracy', seeds: 40, central });
      return at(asked, 0);
    };
    const [wide, narrow] = [of(100), of(60)];
    const [[low = 0, high = 0] = [], [inner = 0, outer = 0] = []] = [wide.between, narrow.between];
    expect(low).toBeLessThanOrEqual(inner);
    expect(high).toBeGreaterThanOrEqual(outer);
    expect(wide.figure.value).toBeGreaterThan(0.9);
    const other = () => compute('seeded-score', { model: 'nearest', metric: 'rmse' });
    expect(other).toThrow('does not judge this task');
    expect(other).toThrow(expect.objectContaining({ code: 'no-figure', place: { field: 'metric' } }));
  });
});

describe('a typed number', () => {
  it.each([
    ['0.869', 0.869, 3],
    [' 86.9 % ', 0.869, 3],
    ['−0.5', -0.5, 1],
    ['1.2e-3', 0.0012, 4],
    ['320', 320, 0],
    ['.5', 0.5, 1],
  ])('%s is %d with %d decimals', (text, value, decimals) => {
    expect(typedNumber(text)).toMatchObject({ value: expect.closeTo(value, 12), decimals });
  });

  it.each([
    ['', 'is missing'],
    ['0,869', 'has a decimal comma; write 0.869'],
    ['12,345', 'has thousands set apart by commas'],
    ['1 234', 'has thousands set apart'],
    ['12.4 kg', 'has the unit “kg”'],
    ['3/4', 'is a fraction'],
    ['Infinity', 'is infinite'],
    ['about 5', 'is not a number'],
    ['1e999', 'is beyond'],
  ])('“%s” is refused, and it is said why', (text, wrong) => {
    expect(typedNumber(text)).toMatchObject({ wrong: expect.stringContaining(wrong) });
  });
});

describe('what is asked', () => {
  /** What follows from the other numbers of the text. */
  const DERIVED: Record<string, readonly string[]> = {
    confusion: ['fp', 'fn'],
    'roc-points': ['points'],
    summary: ['n'],
    'tree-split': ['nr', 'yr'],
  };

  it.each(byChance.map((kind) => [kind.key, kind] as const))(
    '%s has in its text every number that its keys need',
    (key, { text }) => {
      const { given } = generate(everything(key), by('a'));
      const missing = Object.keys(given).filter(
        (name) => !text.includes(`{${name}}`) && !(DERIVED[key] ?? []).includes(name),
      );
      expect(missing).toEqual([]);
    },
  );

  it('under a name with several usual definitions says which one is meant', () => {
    const conventions = new Map(
      byChance.flatMap(({ key }) =>
        generate(everything(key), by('a')).asked.map(({ name, convention }) => [name, convention] as const),
      ),
    );
    for (const name of [
      'standard deviation',
      'standard error',
      'lower quartile',
      'skewness',
      'mean error',
      'mean absolute percentage error',
      'McNemar p',
      'entropy of the node',
      'log loss',
      'Brier score',
      'average precision',
      'prior of survival',
    ])
      expect(conventions.get(name)).toEqual(expect.any(String));
    expect(conventions.get('accuracy')).toBeNull();
  });
});

describe('a tolerance', () => {
  const tolerance = (kind: string, values: Record<string, number> = {}) => ({
    kind,
    values: {
      ...newPlan(
        at(
          TOLERANCE_KINDS.filter(({ key }) => key === kind),
          0,
        ),
        [],
      ).values,
      ...values,
    },
  });
  const right = (plan: ReturnType<typeof tolerance>, key: number, text: string) => {
    const typed = typedNumber(text);
    return 'wrong' in typed ? typed.wrong : accepts(plan, key, typed).right;
  };

  it('to the digits typed takes what rounds to them, and no number that says too little', () => {
    const plan = tolerance('digits', { decimals: 3 });
    expect(right(plan, 2 / 3, '0.667')).toBe(true);
    expect(right(plan, 2 / 3, '66.67 %')).toBe(true);
    expect(right(plan, 2 / 3, '0.666')).toBe(false);
    expect(right(plan, 2 / 3, '0.67')).toBe(false);
    // A half may be rounded either way.
    expect(right(plan, 0.0625, '0.062')).toBe(true);
    expect(right(plan, 0.0625, '0.063')).toBe(true);
    expect(right(plan, 0.5, '0.5')).toBe(true);
    expect(right(plan, 320, '320')).toBe(true);
    expect(right(plan, 320, '3.2e2')).toBe(true);
  });

  it('asks for as much as the key needs: whole numbers in full, two significant digits of a small one', () => {
    const digits = tolerance('digits', { decimals: 3 });
    expect(['137', '137.0', '1.37e2', '0137'].map((text) => right(digits, 137, text))).toEqual(
      Array(4).fill(true),
    );
    expect(
      ['1e2', '1.4e2', '140', '0e9', '1e9', '136', '137.4'].map((text) => right(digits, 137, text)),
    ).toEqual(Array(7).fill(false));
    expect(
      ['0', '0.000', '0e9', '0.0004', '0.00043', '4.3e-4'].map((text) => right(digits, 0.000432, text)),
    ).toEqual([false, false, false, false, true, true]);
    expect(right(tolerance('absolute', { within: 0.005 }), 0.0004, '0')).toBe(false);
    expect(right(tolerance('relative', { percent: 100 }), 0.0004, '0')).toBe(false);
  });

  it('of every form takes no string that is further from the key than it says', () => {
    const spread = fc.oneof(
      fc.double({ min: -1e6, max: 1e6, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.integer({ min: -5000, max: 5000 }),
      fc.double({ min: 1e-9, max: 1e-3, noNaN: true }),
    );
    const digit = fc.constantFrom('0', '1', '2', '3', '4', '5', '6', '7', '8', '9');
    const some = (max: number) =>
      fc.array(digit, { minLength: 0, maxLength: max }).map((all) => all.join(''));
    const odd = fc
      .tuple(
        fc.constantFrom('', '-', '+', '−'),
        some(12),
        fc.constantFrom('', '.'),
        some(12),
        fc.constantFrom('', 'e0', 'e9', 'E+12', 'e-12', 'e308', 'e-400'),
        fc.constantFrom('', ' %', '%'),
      )
      .map((all) => all.join(''));
    fc.assert(
      fc.property(spread, odd, fc.nat(20), (key, text, near) => {
        // Strings that are adversarial, and such as are written near the key.
        for (const one of [text, key.toExponential(near % 12), key.toFixed(near % 8), String(key)]) {
          const typed = typedNumber(one);
          if ('wrong' in typed) continue;
          const off = Math.abs(typed.value - key);
          const size = Math.max(Math.abs(key), Number.MIN_VALUE);
          const edge = 1 + 1e-8;
          // Half a step of two significant digits is at most a tenth of the key and half of it.
          if (accepts(tolerance('digits', { decimals: 3 }), key, typed).right)
            expect(off).toBeLessThanOrEqual(
              (Number.isInteger(key) ? 0.5 : Math.min(0.0005, 0.05 * size)) * edge + 1e-8 * size,
            );
          if (accepts(tolerance('absolute', { within: 0.005 }), key, typed).right)
            expect(off).toBeLessThanOrEqual(
              (key === 0 ? 0.005 : Math.min(0.005, size / 2)) * edge + 1e-8 * size,
            );
          if (accepts(tolerance('relative', { percent: 1 }), key, typed).right)
            expect(off).toBeLessThanOrEqual(0.01 * size * edge + 1e-8 * size);
        }
      }),
      { numRuns: 3000 },
    );
  });

  it('by a distance or a share of the key ends where it says, either way', () => {
    const distance = tolerance('absolute', { within: 0.005 });
    expect(['0.495', '0.505', '0.4949', '0.5051'].map((text) => right(distance, 0.5, text))).toEqual([
      true,
      true,
      false,
      false,
    ]);
    const share = tolerance('relative', { percent: 1 });
    expect(['-198', '-202', '-197.9', '202'].map((text) => right(share, -200, text))).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
});
