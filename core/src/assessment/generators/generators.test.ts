import { describe, expect, it } from '@jest/globals';
import { secretOf } from '../../../test/secrets.js';
import fc from 'fast-check';
import { iris, testFile } from '../../../test/files.js';
import { IRIS_ROLES } from '../../../test/plans.js';
import { at } from '../../foundation/numbers.js';
import { newPlan } from '../../data/sentence/sentence.js';
import { generate } from './generate.js';
import type { GeneratedItem } from './generator.js';
import { generatorOf } from './registry.js';
import { typedNumber } from './typed.js';
import { everything, byChance, by, numbersIn } from './fixture-of-tests.js';

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
      for (const { name, figure } of numbersIn(drawn.asked))
        expect(figure.value).toBeCloseTo(expected[name] ?? NaN, 9);
    },
  );

  it('that are known from elsewhere: e^0.211 as an odds ratio, a grid of 8 × 4 over 10 folds, 1,000 rows at 30 %', () => {
    const found = (kind: string, wanted: Record<string, string>, name: string) => {
      for (let i = 0; i < 60_000; i++) {
        const drawn = generate(everything(kind), by(`student ${i}`));
        if (Object.entries(wanted).every(([key, value]) => drawn.given[key] === value))
          return numbersIn(drawn.asked).find((asked) => asked.name === name)?.figure.value;
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

  it('is never used with a figure that is undefined, and names every placeholder of its text', () => {
    fc.assert(
      fc.property(fc.constantFrom(...byChance), fc.string(), fc.nat(), (kind, who, of) => {
        const drawn = generate(everything(kind.key), { secret: secretOf(of), question: 'q1', id: who });
        for (const { figure } of numbersIn(drawn.asked)) expect(Number.isFinite(figure.value)).toBe(true);
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
  const table = iris();
  const material = { table, validation: null, all: table, roles: IRIS_ROLES };
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
    expect(numbersIn(asked).map(({ figure }) => figure.value)).toEqual([
      expect.closeTo(5.843333, 6),
      expect.closeTo(0.828066, 6),
      4.3,
    ]);
  });

  it('is a range over seeds that holds the share of the scores that it says', () => {
    const of = (central: number) => {
      const { asked } = compute('seeded-score', { model: 'nearest', metric: 'accuracy', seeds: 40, central });
      return at(numbersIn(asked), 0);
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

  it('of seeded work with a model’s own settings, features and any metric', () => {
    const seeded = (values: Record<string, string | readonly string[]>) =>
      compute('seeded-score', { seeds: 30, ...values });
    const middle = (values: Record<string, string | readonly string[]>) =>
      at(numbersIn(seeded(values).asked), 0).figure.value ?? 0;
    // A stump distinguishes two of the three flowers.
    const stump = { model: 'tree depth=1', metric: 'accuracy' };
    expect(middle(stump)).toBeLessThan(0.7);
    expect(middle({ ...stump, model: 'tree' })).toBeGreaterThan(0.9);
    expect(middle({ model: 'tree', metric: 'kappa', features: ['sepal_width'] })).toBeLessThan(0.6);
    expect(seeded(stump).given).toMatchObject({ features: 'all features', metric: 'accuracy' });
    expect(seeded(stump).given['model']).toContain('depth 1');
    // How far honest forests of other programs lie apart is not measured.
    expect(() => seeded({ model: 'forest', metric: 'accuracy' })).toThrow('the families are');
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
