import { describe, expect, it } from '@jest/globals';
import { asked, begun, failing, fileOf, material, SUBJECT } from '../../../../test/asked.js';
import { tableOf } from '../../../../test/files.js';
import { at } from '../../../foundation/numbers.js';
import { questionKindOf } from '../registry.js';

describe('a curve', () => {
  const settings = ['1', '2', '4', '8', '16'];
  const values = { setting: 'depth', settings, measure: 'error', rule: 'best' };
  const training = [0.3, 0.22, 0.15, 0.05, 0];
  const validation = [0.32, 0.26, 0.24, 0.27, 0.31];
  const table = (valid = validation, train = training, names = settings) =>
    `depth,training,validation\n${names.map((name, i) => `${name},${train[i]},${valid[i]}`).join('\n')}\n`;
  const right = { chosen: '4', simplest: 'under', complex: 'over' };
  /** A run whose curve is the one of `table`. */
  const curves = {
    run: {
      metric: 'error_rate',
      points: settings.map((setting, i) => ({
        setting,
        mean: at(validation, i),
        se: 0.02,
        training: at(training, i),
      })),
    },
  };
  const hand = (
    fields: Record<string, string>,
    file = table(),
    over: Record<string, string | number | string[]> = {},
  ) =>
    asked(begun('curve', { values: { ...values, ...over }, run: 'run' }), material({ curves })).hand({
      file: fileOf(file),
      fields,
    });

  it('with the best chosen and both ends named correctly earns all marks', () => {
    expect(hand(right)).toMatchObject({ holds: true, marks: 4 });
  });

  it('is compared with no run of a family of which other programs’ curves were not measured', () => {
    const question = begun('curve', { values, run: 'run' });
    const of = (family: string) => material({ curves: { run: { ...curves.run, family } } });
    expect(asked(question, of('tree')).hand({ file: fileOf(table()), fields: right })).toMatchObject({
      marks: 4,
    });
    expect(() => asked(question, of('forest'))).toThrow('honest curves of a random forest');
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

  it('is compared with the run that is named: near it earns all, far from it that check, invented nothing', () => {
    expect(failing(hand(right))).toEqual([]);
    const far = hand(right, table(validation.map((error, i) => (i === 0 ? error + 0.1 : error))));
    expect(failing(far)).toEqual(['run']);
    expect(far.marks).toBe(3.2);
    const invented = hand(right, table(validation.map((error) => error / 3)));
    expect(failing(invented)[0]).toBe('work');
    expect(invented.marks).toBe(0);
    expect(() => asked(begun('curve', { values, run: 'gone' }))).toThrow(
      'The run of the curve is not there any more',
    );
  });

  it('is compared where a setting of the run has no figure, and needs a run with two of its settings', () => {
    const without = (known: number) => ({
      run: {
        ...curves.run,
        points: curves.run.points.map((point, i) => (i < known ? point : { ...point, mean: null })),
      },
    });
    const under = (known: number) =>
      asked(begun('curve', { values, run: 'run' }), material({ curves: without(known) }));
    const far = table(validation.map((error, i) => (i === 0 ? error + 0.1 : error)));
    expect(failing(under(4).hand({ file: fileOf(table()), fields: right }))).toEqual([]);
    expect(failing(under(4).hand({ file: fileOf(far), fields: right }))).toEqual(['run']);
    expect(() => under(2)).not.toThrow();
    expect(() => under(1)).toThrow();
  });

  it('has its training figures compared too', () => {
    expect(failing(hand(right, table(validation, [0.25, 0.1, 0.02, 0.01, 0])))).toContain('run');
  });

  it('without a run is compared with the same model computed here', () => {
    const question = begun('curve', { values: { ...values, settings: ['1', '2', '3', '4'] } });
    const { key, hand: give } = asked(question);
    const points = ('curve' in key ? key.curve?.points : null) ?? [];
    const mean = (i: number) => points[i]?.mean ?? NaN;
    const file = `depth,training,validation\n${points.map(({ setting, training: train }, i) => `${setting},${train},${mean(i)}`).join('\n')}\n`;
    const best = points.map((_, i) => mean(i)).indexOf(Math.min(...points.map((_, i) => mean(i))));
    const fields = { chosen: String(best + 1), simplest: 'neither', complex: 'neither' };
    expect(failing(give({ file: fileOf(file), fields }))).not.toContain('run');
    expect(failing(give({ file: fileOf(file.replace(/[\d.]+$/gm, '0.01')), fields }))).toContain('work');
    expect(() => asked(begun('curve', { values: { ...values, family: 'run' } }))).toThrow(
      'Name a reference run',
    );
    expect(() => asked(begun('curve', { values: { ...values, setting: 'height' } }))).toThrow(
      'decision tree has no curve along “height”; name one of depth',
    );
    expect(() => asked(begun('curve', { values: { ...values, settings: ['1', 'two', '3'] } }))).toThrow(
      'A curve that is computed here has numbers as settings.',
    );
  });

  it('without a run takes no more folds than there are groups, and says how it is computed', () => {
    const roles = { ...material().roles, group: 'frames' };
    const question = begun('curve', { values: { ...values, settings: ['1', '2', '3', '4'] } });
    const { key, sheet } = asked(question, material({ roles }));
    expect('curve' in key && key.curve?.points.every(({ mean }) => mean !== null)).toBe(true);
    expect(sheet().checked).toContain(
      'over ten folds of the training rows, at most one for each frames, with each frames whole',
    );
    const table = tableOf(
      `colony,apiary,frames,survived\n${Array.from({ length: 120 }, (_, i) => `c${i},a1,${i % 4},${i % 3 ? 'yes' : 'no'}`).join('\n')}\n`,
    );
    const one = { ...roles, group: 'apiary' };
    expect(() => asked(question, material({ table, roles: one }))).toThrow(
      'All training rows are of one group',
    );
  });

  it('within one standard error of the best may be called either', () => {
    const flat = [0.26, 0.25, 0.24, 0.25, 0.255];
    const run = {
      ...curves.run,
      points: curves.run.points.map((point, i) => ({ ...point, mean: at(flat, i) })),
    };
    const { hand: give } = asked(begun('curve', { values, run: 'run' }), material({ curves: { run } }));
    for (const simplest of ['under', 'neither'])
      for (const complex of ['over', 'neither'])
        expect(
          failing(give({ file: fileOf(table(flat)), fields: { chosen: '4', simplest, complex } })),
        ).toEqual([]);
    expect(
      failing(
        give({ file: fileOf(table(flat)), fields: { chosen: '4', simplest: 'over', complex: 'under' } }),
      ),
    ).toEqual(['simplest', 'complex']);
  });

  it('of equal validation figures takes any choice, and bears noise in training figures', () => {
    const equal = [0.32, 0.24, 0.24, 0.27, 0.31];
    for (const chosen of ['2', '4'])
      expect(failing(hand({ ...right, chosen }, table(equal)))).not.toContain('choice');
    expect(failing(hand(right, table(validation, [0.3, 0.22, 0.15, 0.16, 0])))).not.toContain('shape');
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
    expect(() => asked(question, material({ curves: judgedBy('r2') }))).toThrow(
      'cannot be shown as an error',
    );
  });

  it.each([
    [
      'a setting occurs twice, written otherwise',
      table(validation, training, ['1', '2', '2.0', '8', '16']),
      'depth 2.0 is on line 3 too',
    ],
    [
      'a setting occurs twice',
      table(validation, training, ['1', '2', '2', '8', '16']),
      'depth 2 is on line 3 too',
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
