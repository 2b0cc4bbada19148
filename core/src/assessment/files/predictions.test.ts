import { describe, expect, it } from '@jest/globals';
import { bytesOf } from '../../../test/files.js';
import { checkPredictions } from './predictions.js';
import { exampleHeader, type PredictionRules } from './rules.js';

const binary: PredictionRules = {
  identifier: 'colony',
  identifiers: ['HL-1', 'HL-2', 'HL-3'],
  task: 'binary',
  labels: ['lost', 'survived'],
  positive: 'survived',
  needs: 'probabilities',
};
const labels: PredictionRules = { ...binary, needs: 'labels' };
const grains: PredictionRules = {
  ...binary,
  task: 'multiclass',
  labels: ['ash', 'elm', 'oak'],
  positive: null,
};
const numbers: PredictionRules = {
  ...binary,
  task: 'regression',
  labels: [],
  positive: null,
  needs: 'numbers',
};

const checked = (text: string, rules: PredictionRules) => checkPredictions(bytesOf(text), 'mine.csv', rules);
const failing = (text: string, rules: PredictionRules) =>
  checked(text, rules).checks.filter((c) => c.outcome === 'fails');
/** The one check that fails, with its examples as texts. */
function failure(text: string, rules: PredictionRules) {
  const fails = failing(text, rules);
  expect(fails).toHaveLength(1);
  const [check] = fails;
  return {
    id: check?.id,
    message: check?.message,
    examples: check?.examples.map((e) => e.text),
    places: check?.examples.map((e) => [e.line, e.column]),
  };
}

describe('a file that is right', () => {
  it('is aligned to the order of the pack, not of the file', () => {
    const { predictions, checks, rows } = checked(
      'colony,probability\nHL-3,0.9\nHL-1,0.2\nHL-2,0.5\n',
      binary,
    );
    expect(checks.map((c) => c.outcome)).not.toContain('fails');
    expect(rows).toBe(3);
    expect(predictions).toMatchObject({ kind: 'labels', derived: true });
    if (predictions?.kind !== 'labels') throw new Error('labels');
    expect(Array.from(predictions.probabilities?.[1] ?? [])).toEqual([0.2, 0.5, 0.9]);
    expect(Array.from(predictions.probabilities?.[0] ?? [])).toEqual([0.8, 0.5, 1 - 0.9]);
    // From 0.5 up the positive label.
    expect(Array.from(predictions.predicted)).toEqual([0, 1, 1]);
  });

  it('may give labels, columns in any order, and columns that are not used', () => {
    const { predictions, checks } = checked(
      'note,prediction,colony\nx,lost,HL-1\ny,survived,HL-2\nz,lost,HL-3\n',
      labels,
    );
    expect(predictions).toMatchObject({ kind: 'labels', derived: false, probabilities: null });
    expect(checks[0]?.measured).toBe('not used: note');
  });

  it('may give one probability for each class; the largest is the label, the first on ties', () => {
    const { predictions } = checked(
      'colony,p:oak,p:ash,p:elm\nHL-1,0.2,0.4,0.4\nHL-2,1,0,0\nHL-3,0.3,0.3,0.4\n',
      grains,
    );
    if (predictions?.kind !== 'labels') throw new Error('labels');
    expect(Array.from(predictions.predicted)).toEqual([0, 2, 1]);
  });

  it('may give numbers', () => {
    const { predictions } = checked('colony,prediction\nHL-1,1.5\nHL-2,-2e3\nHL-3,0\n', numbers);
    expect(predictions).toEqual({ kind: 'numbers', predicted: Float64Array.of(1.5, -2000, 0) });
  });

  it.each([
    [binary, ['colony', 'probability']],
    [labels, ['colony', 'prediction']],
    [grains, ['colony', 'p:ash', 'p:elm', 'p:oak']],
    [numbers, ['colony', 'prediction']],
  ])('has the header of the example', (rules, header) => {
    expect(exampleHeader(rules)).toEqual(header);
  });
});

describe('rows', () => {
  it('names identifiers that are missing', () => {
    expect(failure('colony,probability\nHL-1,0.2\nHL-3,0.9\n', binary)).toMatchObject({
      id: 'rows',
      message: 'Each colony must appear exactly once: 1 row missing.',
      examples: ['colony HL-2 is missing'],
    });
  });

  it('names identifiers that were not asked for, with the line', () => {
    expect(failure('colony,probability\nHL-1,0.2\nHL-2,0.2\nHL-3,0.9\nHL-9,0.9\n', binary)).toMatchObject({
      id: 'rows',
      examples: ['line 5: colony “HL-9” is not one of the rows to predict'],
      places: [[5, 1]],
    });
  });

  it('names identifiers that stand twice, with both lines', () => {
    expect(failure('colony,probability\nHL-1,0.2\nHL-2,0.2\nHL-3,0.9\nHL-1,0.9\n', binary)).toMatchObject({
      id: 'rows',
      examples: ['colony HL-1 is on lines 2 and 5'],
    });
  });

  it('shows an example of each fault and never more than five', () => {
    const many = Array.from({ length: 9 }, (_, i) => `X-${i},0.5`).join('\n');
    const found = failure(`colony,probability\nHL-1,0.2\nHL-1,0.2\n${many}\n`, binary);
    expect(found.examples).toHaveLength(5);
    expect(found.examples?.some((text) => text.includes('is missing'))).toBe(true);
    expect(found.examples?.some((text) => text.includes('not one of the rows'))).toBe(true);
  });
});

describe('values', () => {
  const rows = (...values: string[]) =>
    `colony,probability\n${values.map((v, i) => `HL-${i + 1},${v}`).join('\n')}\n`;
  const predicted = (...values: string[]) => rows(...values).replace('probability', 'prediction');

  it('may write labels and identifiers as other programs do: True for true, 1.0 for 1, 7 for 007', () => {
    const truths = { ...labels, identifiers: ['007', '012', '100'], labels: ['false', 'true'] };
    const found = checked('colony,prediction\n7,True\n12.0,FALSE\n100,true\n', truths);
    expect(found.predictions).toMatchObject({ predicted: Int32Array.of(1, 0, 1) });
    const shares = checked('colony,p:False,p:True\n7,0.4,0.6\n012,1,0\n100,0,1\n', {
      ...truths,
      needs: 'probabilities',
      positive: 'true',
    });
    expect(shares.predictions).toMatchObject({
      probabilities: [Float64Array.of(0.4, 1, 0), Float64Array.of(0.6, 0, 1)],
    });
    const ones = checked('colony,prediction\n007,1.0\n012,0\n100,1\n', { ...truths, labels: ['0', '1'] });
    expect(ones.predictions).toMatchObject({ predicted: Int32Array.of(1, 0, 1) });
    expect(
      failing('colony,prediction\n7,Yes\n012,yes\n100,no\n', { ...truths, labels: ['no', 'yes'] }),
    ).toHaveLength(1);
  });

  it('names unknown labels with the nearest known one', () => {
    expect(failure(predicted('lost', 'survivd', 'lost'), labels)).toMatchObject({
      id: 'labels',
      examples: ['line 3: “survivd” for HL-2 is no label; the nearest is “survived”'],
      places: [[3, 2]],
    });
  });

  it('names probabilities outside 0 to 1', () => {
    expect(failure(rows('0.5', '1.07', '-0.1'), binary)).toMatchObject({
      id: 'range',
      examples: ['line 3: probability 1.07 for HL-2', 'line 4: probability -0.1 for HL-3'],
    });
  });

  it('names rows whose probabilities do not sum to 1, but forgives a thousandth', () => {
    const text = 'colony,p:ash,p:elm,p:oak\nHL-1,0.3333,0.3333,0.3333\nHL-2,0.5,0.4,0.2\nHL-3,1,0,0\n';
    expect(failure(text, grains)).toMatchObject({
      id: 'sums',
      examples: ['line 3: the probabilities of HL-2 sum to 1.1'],
    });
  });

  it('names rows without a prediction', () => {
    expect(failure(rows('0.5', '', 'NA'), binary)).toMatchObject({
      id: 'complete',
      places: [
        [3, 2],
        [4, 2],
      ],
    });
  });

  it.each([
    ['"1,234"', 'has commas between thousands'],
    ['"0,5"', 'has a decimal comma'],
    ['inf', 'is infinite'],
    ['50 %', 'is a percentage'],
    ['high', 'is not a number'],
    ['0x1f', 'is not a number'],
  ])('says that %s %s', (value, what) => {
    expect(failure(predicted('1', value, '3'), numbers).examples?.[0]).toContain(what);
  });
});

describe('headers', () => {
  it.each([
    ['id,probability\nHL-1,1\n', binary, 'Line 1: there is no column “colony”; the nearest is “id”.'],
    [
      'Colony,probability\nHL-1,1\n',
      binary,
      'Line 1: there is no column “colony” (“Colony” is written differently).',
    ],
    [
      'colony,prediction\nHL-1,lost\n',
      binary,
      'Line 1: probabilities are asked for, and there is no column “probability”.',
    ],
    [
      'colony,p:ash\nHL-1,1\n',
      grains,
      'Line 1: probabilities are asked for, and there is no column “p:elm”, “p:oak”.',
    ],
    ['colony,said\nHL-1,elm\n', labels, 'Line 1: there is no column “prediction”; the nearest is “said”.'],
  ])('%j is refused', (text, rules, message) => {
    expect(failure(text, rules)).toMatchObject({ id: 'header', message });
  });
});

describe('files that are no predictions', () => {
  it.each([
    ['', 'mine.csv is empty.'],
    [
      '<html><body>Sign in</body></html>',
      'mine.csv is a web page, not a table. Perhaps a sign-in page was saved instead of the data.',
    ],
    [
      'PK\x03\x04xyz',
      'mine.csv is a spreadsheet or a zip archive, whatever its name says. Save it as CSV and import that file.',
    ],
    ['colony,probability\nHL-1,0.5\nHL-2\n', 'mine.csv, line 3: 1 field, but the header has 2.'],
    [
      'colony,probability\nHL-1,"0.5\nHL-2,0.1\n',
      'mine.csv, line 2: a quotation mark in field 2 is opened and never closed.',
    ],
    [
      'colony,probability\nHL-1,0\0\n',
      'mine.csv holds a zero byte on line 2: it is binary or damaged, not a text table.',
    ],
  ])('%j is refused as unreadable, with its place', (text, message) => {
    expect(failure(text, binary)).toMatchObject({ id: 'readable', message });
  });

  it('a header alone lacks every row', () => {
    expect(failure('colony,probability\n', binary)).toMatchObject({
      id: 'rows',
      message: 'Each colony must appear exactly once: 3 rows missing.',
    });
  });
});
