import { describe, expect, it } from '@jest/globals';
import { asked, begun, fileOf, material } from '../../../test/asked.js';
import { tableOf } from '../../../test/files.js';
import { givenRows, FEEDBACK, FINAL } from '../material/held-out.js';
import { GENERATORS } from '../generators/registry.js';
import { toleranceKindOf } from '../generators/tolerance.js';
import { at } from '../../foundation/numbers.js';
import { seededRandom, shuffle, type Random } from '../../foundation/random/random.js';
import { newPlan } from '../../data/sentence/sentence.js';
import type { Roles, Task } from '../../data/table/roles.js';
import type { Material } from '../material/material.js';
import { QUESTION_KINDS } from './registry.js';
import type { Question } from './question.js';
import type { Answer } from './contract/answer.js';

/** Rows with a real relation, 40 groups of 10; the first 300 are given, the others held out. */
function subject(task: Task): Material {
  const random = seededRandom(20261128);
  const rows = Array.from({ length: 400 }, (_, i) => {
    const [x, z] = [random.unit() * 4 - 2, random.unit() * 4 - 2];
    const score = 1.5 * x - z + 2 * (random.unit() - 0.5);
    const target = {
      binary: score > 0 ? 'yes' : 'no',
      multiclass: score > 1.2 ? 'strong' : score > -1.2 ? 'fair' : 'weak',
      regression: score.toFixed(3),
    }[task];
    return `r${i},g${Math.floor(i / 10)},${x.toFixed(3)},${z.toFixed(3)},${target}`;
  });
  const roles: Roles = {
    target: 'outcome',
    task,
    positive: task === 'binary' ? 'yes' : null,
    identifier: 'id',
    group: task === 'binary' ? 'group' : null,
    time: null,
    weight: null,
    withheld: [],
  };
  return material({
    table: tableOf(`id,group,x,z,outcome\n${rows.join('\n')}\n`),
    roles,
    parts: Int8Array.from({ length: 400 }, (_, i) => (i < 300 ? 0 : 2)),
    division: Uint8Array.from({ length: 400 }, (_, i) => (i < 300 ? 0 : i % 2 ? FEEDBACK : FINAL)),
  });
}

/** Every question as it is begun; of folds also with predictions, of values every generator. */
function defaults(from: Material): [string, Question][] {
  const columns = { columns: from.table.columns, roles: from.roles };
  return QUESTION_KINDS.flatMap((kind): [string, Question][] => {
    const question = kind.begin('q1', columns);
    if (question.kind === 'folds')
      return [
        [kind.key, question],
        ['folds with predictions', { ...question, values: { ...question.values, reports: 'predictions' } }],
      ];
    if (question.kind === 'values')
      return GENERATORS.filter(({ from: source }) => source === 'chance').map((draw) => [
        `values: ${draw.key}`,
        {
          ...question,
          text: draw.text,
          figures: newPlan(draw, columns.columns),
          tolerance: newPlan(toleranceKindOf({ kind: 'digits' }), columns.columns),
        },
      ]);
    return [[kind.key, question]];
  });
}

type Cheat = (made: ReturnType<typeof asked>, random: Random, from: Material) => Partial<Answer>[];

/** A file of the header of the example with cells that are made up. */
function filled(made: ReturnType<typeof asked>, cell: (column: string, was: string) => string): string {
  const [header = '', ...lines] = (made.example ?? '').trim().split(/\r?\n/);
  const names = header.split(',');
  return `${[
    header,
    ...lines.map((line) =>
      line
        .split(',')
        .map((was, i) => (i === 0 ? was : cell(at(names, i), was)))
        .join(','),
    ),
  ].join('\n')}\n`;
}

/** The first choice of every field, and a number where one is typed. */
const fields = (made: ReturnType<typeof asked>, typed: () => string, choice: (n: number) => number) =>
  Object.fromEntries(
    made
      .sheet()
      .fields.map(({ key, choices }) => [key, choices ? at(choices, choice(choices.length)).value : typed()]),
  );

const CHEATS: Readonly<Record<string, Cheat>> = {
  'the example of the pack': (made) =>
    ['0', '0.5', '1'].map((typed) => ({
      ...(made.example ? { file: fileOf(made.example) } : {}),
      fields: fields(
        made,
        () => typed,
        () => 0,
      ),
    })),
  'the same in every cell and field': (made) =>
    [0, 1].flatMap((choice) =>
      ['0', '0.5', '1', '0e9', '1e2', '1e-300', '00'].map((typed) => ({
        ...(made.example ? { file: fileOf(filled(made, (_, was) => was)) } : {}),
        fields: fields(
          made,
          () => typed,
          (n) => Math.min(n - 1, choice),
        ),
      })),
    ),
  nothing: () => [
    { file: fileOf(''), fields: {} },
    { file: null, fields: {} },
  ],
  'the training file': (made, _, from) => {
    const { rows } = givenRows(from);
    const names = from.table.columns.map(({ name }) => name);
    const lines = Array.from(rows, (row) => `r${row},g0,0,0,yes`);
    return [
      {
        file: fileOf(`${names.join(',')}\n${lines.join('\n')}\n`),
        fields: fields(
          made,
          () => '1',
          () => 0,
        ),
      },
    ];
  },
  'random parts, folds, labels and numbers': (made, random) =>
    Array.from({ length: 6 }, () => {
      const { rules } = made;
      const number = () => (random.unit() * 2).toFixed(3);
      const chance = () => random.unit().toFixed(4);
      const file =
        'parts' in rules
          ? filled(made, () => at(rules.parts, random.below(rules.parts.length)))
          : filled(made, (column) => {
              if (column === 'fold' && 'k' in rules) return String(1 + random.below(rules.k));
              if (column === 'prediction')
                return 'labels' in rules && rules.labels.length > 0
                  ? at(rules.labels, random.below(rules.labels.length))
                  : number();
              return chance();
            });
      return {
        ...(made.example ? { file: fileOf(file) } : {}),
        fields: fields(made, chance, (n) => random.below(n)),
      };
    }),
  'the lines of the example in another order': (made, random) => {
    const [header = '', ...lines] = (made.example ?? '').trim().split(/\r?\n/);
    const order = shuffle(Int32Array.from(lines.keys()), random);
    const file = `${header}\n${Array.from(order, (i) => at(lines, i)).join('\n')}\n`;
    return [
      {
        ...(made.example ? { file: fileOf(file) } : {}),
        fields: fields(
          made,
          () => '0.5',
          () => 0,
        ),
      },
    ];
  },
};

describe.each(['binary', 'multiclass', 'regression'] as const)(
  'what shows no work earns nothing, for a %s target:',
  (task) => {
    const from = subject(task);
    const all = defaults(from).map(([name, question]) => [name, asked(question, from)] as const);
    it.each(Object.entries(CHEATS))('%s', (_, cheat) => {
      const random = seededRandom(7);
      const earned = all.flatMap(([name, made]) =>
        cheat(made, random, from).flatMap((answer) => {
          const { marks, outOf, judged } = made.hand(answer);
          // Guesses among a few statements or whole numbers may be right; they are shown by themselves below.
          if (name === 'choice' && new Set(Object.values(answer.fields ?? {})).size > 1) return [];
          return marks === null || marks === 0
            ? []
            : [
                `${name}: ${marks} of ${outOf} for ${JSON.stringify(answer.fields)} ${judged.map((j) => j.check.id + j.check.outcome).join()}`,
              ];
        }),
      );
      expect(earned).toEqual([]);
    });
  },
);

describe('statements that are guessed', () => {
  it('earn less than a quarter on average under the default, and nothing where all are answered the same', () => {
    const made = asked(begun('choice'));
    const random = seededRandom(3);
    let [sum, n] = [0, 0];
    for (let i = 0; i < 400; i++) {
      const who = { ...{ secret: material().secret, question: 'q1' }, id: `student ${i}` };
      const answer = Object.fromEntries(
        made.sheet(who).fields.map(({ key }) => [key, random.below(2) ? 'true' : 'false']),
      );
      const { marks, outOf } = made.hand({ fields: answer }, who);
      sum += (marks ?? 0) / outOf;
      n++;
    }
    expect(sum / n).toBeLessThan(0.25);
  });
});
