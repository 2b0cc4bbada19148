import { describe, expect, it } from '@jest/globals';
import { asked, begun, material } from '../../../../test/asked.js';
import { tableOf } from '../../../../test/files.js';
import type { PlanValue } from '../../../data/sentence/parameter.js';
import { newPlan } from '../../../data/sentence/sentence.js';
import { asksNames } from '../../generators/generator.js';
import { generatorOf } from '../../generators/registry.js';

describe('answers', () => {
  it('that are names are chosen: one of several, or some of them with part of the marks', () => {
    const figuresOf = (kind: string, values: Record<string, PlanValue>) => ({
      figures: {
        kind,
        values: { ...newPlan(generatorOf({ kind }), material().table.columns).values, ...values },
      },
      text: 'Which?',
    });
    const one = asked(
      begun('values', figuresOf('column-counts', { column: 'survived', asked: ['commonest value'] })),
    );
    const [field] = one.sheet().fields;
    expect(field?.choices?.map(({ value }) => value)).toEqual(['no', 'yes']);
    const marks = (answer: string) => one.hand({ fields: { commonest_value: answer } });
    expect([marks('yes').marks, marks('no').marks]).toEqual([4, 0]);
    expect(marks('maybe')).toMatchObject({ holds: false, marks: null });
    expect(marks('').checks[0]?.message).toBe('commonest value: nothing is chosen.');
    expect(JSON.stringify(one.rules)).not.toContain('right');

    const some = asked(
      begun(
        'values',
        figuresOf('nonzero-coefficients', {
          model: 'lasso penalty=0.035',
          features: ['weight', 'frames', 'day'],
          asked: ['columns that stay'],
        }),
      ),
    );
    const key = ('computed' in some.key && some.key.computed?.asked[0]) || null;
    if (!key || !asksNames(key)) throw new Error('no names');
    const [wrong = ''] = key.choices.filter((choice) => !key.right.includes(choice));
    const [first = ''] = key.right;
    expect(wrong).not.toBe('');
    expect(first).not.toBe('');
    const of = (...names: string[]) => some.hand({ fields: { columns_that_stay: names.join('; ') } });
    expect(of(...key.right)).toMatchObject({ marks: 4, holds: true });
    expect(of(...key.right, wrong).marks).toBeCloseTo((4 * (key.right.length - 1)) / key.right.length, 1);
    expect(of(wrong).marks).toBe(0);
    expect(of('(none)')).toMatchObject({ marks: 0, holds: true });
    expect(of(first, '(none)').checks[0]?.message).toContain('none of them is chosen, and others too');
    expect(of().checks[0]?.message).toContain('nothing is chosen');
    expect(some.sheet().fields[0]?.choices?.at(-1)).toEqual({ value: '(none)', text: 'none of them' });
  });

  it('that begin with blanks are taken as they stand, and without them', () => {
    const table = tableOf(
      `colony,work,survived\n${Array.from({ length: 120 }, (_, i) => `c${i}, ${i % 3 ? 'State' : 'Own'},${i % 2 ? 'yes' : 'no'}`).join('\n')}\n`,
    );
    const values = { rows: 'training', column: 'work', asked: ['commonest value'] };
    const from = material({ table, roles: { ...material().roles, group: null } });
    const one = asked(begun('values', { figures: { kind: 'column-counts', values }, text: 'Which?' }), from);
    const marks = (answer: string) => one.hand({ fields: { commonest_value: answer } }).marks;
    expect([marks(' State'), marks('State'), marks(' Own')]).toEqual([4, 4, 0]);
  });

  it('of columns that could not be told apart in a list are refused when the key is made', () => {
    const table = tableOf(
      `colony,x;z,y,survived\n${Array.from({ length: 120 }, (_, i) => `c${i},${i % 7},${(i * 5) % 11},${i % 2 ? 'yes' : 'no'}`).join('\n')}\n`,
    );
    const values = { model: 'lasso penalty=0.01', features: ['x;z', 'y'], asked: ['columns that stay'] };
    const from = material({ table, roles: { ...material().roles, group: null } });
    const question = begun('values', { figures: { kind: 'nonzero-coefficients', values }, text: 'Which?' });
    expect(() => asked(question, from)).toThrow('“x;z” cannot stand in a list of names');
  });

  it('whose key was typed have it in no rules and on no sheet', () => {
    const figures = {
      kind: 'typed-key',
      values: { answers: [['share of lost colonies', '0.31415']], source: 'a report' },
    };
    const typed = asked(begun('values', { figures, text: 'From {source}.' }));
    expect(JSON.stringify([typed.rules, typed.sheet()])).not.toContain('0.31415');
    expect(typed.sheet().text).toBe('From a report.');
    const marksOf = (value: string) => typed.hand({ fields: { share_of_lost_colonies: value } }).marks;
    expect([marksOf('0.31415'), marksOf('0.3')]).toEqual([4, 0]);
  });

  it('are computed from what students have: no column that is withheld, no level of a held-out row', () => {
    const kind = generatorOf({ kind: 'by-group' });
    const plan = newPlan(kind, material().table.columns);
    const values = { column: 'weight', by: 'apiary', group: 'a3', asked: ['group of the largest mean'] };
    const figures = { kind: kind.key, values: { ...plan.values, ...values } };
    const { sheet } = asked(begun('values', { figures, text: kind.text }));
    // Apiaries a18 to a23 are held out.
    expect(sheet().fields[0]?.choices?.map(({ value }) => value)).not.toContain('a18');
    const hidden = material({ roles: { ...material().roles, group: null, withheld: ['apiary'] } });
    expect(() => asked(begun('values', { figures, text: kind.text }), hidden)).toThrow('no column “apiary”');
  });
});
