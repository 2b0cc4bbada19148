import { describe, expect, it } from '@jest/globals';
import { asked, begun, failing, fileOf, material, SUBJECT } from '../../test/asked.js';
import { at } from '../numbers.js';
import { questionKindOf } from './registry.js';

describe('a curve', () => {
  const settings = ['1', '2', '4', '8', '16'];
  const values = { setting: 'depth', settings, measure: 'error', rule: 'best' };
  const training = [0.3, 0.22, 0.15, 0.05, 0];
  const validation = [0.32, 0.26, 0.24, 0.27, 0.31];
  const table = (valid = validation, train = training, names = settings) =>
    `depth,training,validation\n${names.map((name, i) => `${name},${train[i]},${valid[i]}`).join('\n')}\n`;
  const right = { chosen: '4', simplest: 'under', complex: 'over' };
  const hand = (
    fields: Record<string, string>,
    file = table(),
    over: Record<string, string | number | string[]> = {},
  ) => asked(begun('curve', { values: { ...values, ...over } })).hand({ file: fileOf(file), fields });

  it('with the best chosen and both ends named rightly earns all marks', () => {
    expect(hand(right)).toMatchObject({ holds: true, marks: 4 });
  });

  it.each([
    ['the lowest training error is chosen', { ...right, chosen: '16' }, ['choice']],
    [
      'under- and overfitting are exchanged',
      { ...right, simplest: 'over', complex: 'under' },
      ['simplest', 'complex'],
    ],
    [
      'nothing is said to be wrong at the ends',
      { ...right, simplest: 'neither', complex: 'neither' },
      ['simplest', 'complex'],
    ],
  ])('loses marks where %s', (_, fields, ids) => {
    expect(failing(hand(fields))).toEqual(ids);
  });

  it('turned about is found by its training errors', () => {
    expect(failing(hand(right, table([...validation].reverse(), [...training].reverse())))).toContain(
      'shape',
    );
  });

  it('by the one-standard-error rule is the simplest within one of the best', () => {
    const file = `depth,training,validation,standard_error\n${settings.map((name, i) => `${name},${training[i]},${validation[i]},0.03`).join('\n')}\n`;
    const rule = { rule: 'one-se' };
    expect(failing(hand({ ...right, chosen: '2' }, file, rule))).toEqual([]);
    expect(failing(hand(right, file, rule))).toEqual(['choice']);
    expect(hand({ ...right, chosen: '2' }, table(), rule).checks[0]?.message).toContain(
      'no column “standard_error”',
    );
  });

  it('of scores goes the other way', () => {
    const file = table(
      validation.map((error) => 1 - error),
      training.map((error) => 1 - error),
    );
    expect(failing(hand(right, file, { measure: 'score' }))).toEqual([]);
    expect(failing(hand(right, file))).toContain('shape');
  });

  it('is compared with a run where one is named', () => {
    const curves = {
      run: {
        metric: 'error_rate',
        points: settings.map((setting, i) => ({ setting, mean: at(validation, i), se: 0.02 })),
      },
    };
    const of = (file: string) =>
      failing(
        asked(begun('curve', { values, run: 'run' }), material({ curves })).hand({
          file: fileOf(file),
          fields: right,
        }),
      );
    expect(of(table())).toEqual([]);
    expect(of(table(validation.map((error) => error / 3)))).toEqual(['run']);
    expect(() => asked(begun('curve', { values, run: 'gone' }))).toThrow(
      'The run of the curve is not there any more',
    );
  });

  it('is compared with a run in what the student measures, whatever the run was judged by', () => {
    const judgedBy = (metric: string) => ({
      run: {
        metric,
        points: settings.map((setting, i) => ({ setting, mean: 1 - at(validation, i), se: 0.02 })),
      },
    });
    const question = begun('curve', { values, run: 'run' });
    const { hand } = asked(question, material({ curves: judgedBy('accuracy') }));
    expect(failing(hand({ file: fileOf(table()), fields: right }))).toEqual([]);
    expect(() => asked(question, material({ curves: judgedBy('r2') }))).toThrow('cannot be told as an error');
  });

  it.each([
    [
      'a setting stands twice, written otherwise',
      table(validation, training, ['1', '2', '2.0', '8', '16']),
      'depth 2.0 stands on line 3 too',
    ],
    [
      'a setting stands twice',
      table(validation, training, ['1', '2', '2', '8', '16']),
      'depth 2 stands on line 3 too',
    ],
    [
      'a setting is missing',
      table(validation, training, settings.slice(0, 4)),
      'There is no line for depth 16',
    ],
    [
      'a setting was not asked for',
      table(validation, training, ['1', '2', '3', '8', '16']),
      'depth “3” is not among',
    ],
    ['a cell has a decimal comma', table().replace('0.22', '"0,22"'), 'line 3: training “0,22” of depth 2'],
    ['a cell is blank', table().replace('0.22', ''), 'line 3: training “” of depth 2'],
  ])('is refused where %s', (_, file, words) => {
    const result = hand(right, file);
    expect(result).toMatchObject({ holds: false, marks: null });
    expect(
      result.checks.flatMap(({ message, examples }) => [message, ...examples.map((one) => one.text)]).join(),
    ).toContain(words);
  });

  it('is refused where nothing is chosen', () => {
    expect(hand({ ...right, chosen: '' }).checks.at(-1)).toMatchObject({
      outcome: 'fails',
      message: 'depth chosen: nothing is chosen.',
    });
  });

  it('takes three settings or more, each once', () => {
    const kind = questionKindOf('curve');
    expect(() => kind.check(begun('curve', { values: { settings: ['1', '2'] } }), SUBJECT)).toThrow(
      'three settings or more',
    );
  });
});
