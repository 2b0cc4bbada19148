import { SieveError, shortNumber } from '@modest-sieve/core/foundation';
import {
  NOBODY,
  questionKindOf,
  readExercise,
  readKeys,
  type Right,
  type Sheet,
} from '@modest-sieve/core/assessment';
import type { AddCommand, Run } from '../command.js';
import { readInput } from '../files.js';

interface Options {
  readonly question: string;
  readonly student: string;
  readonly key?: string;
}

const run: Run<Options> = async (_, [exerciseFile = ''], { question, student, key: keyFile }) => {
  const { questions, released } = readExercise(await textOf(exerciseFile), exerciseFile);
  const asked = released.find(({ id }) => id === question);
  if (!asked)
    throw new SieveError(
      'no-such-question',
      `There is no question “${question}”; there are ${questions.map(({ id }) => id).join(', ')}.`,
      { field: 'question' },
    );
  const keys = keyFile === undefined ? null : readKeys(await textOf(keyFile), keyFile);
  const kind = questionKindOf(asked.kind);
  if (!keys && kind.isPersonal(asked.rules))
    throw new SieveError(
      'usage',
      'What a student gets of this question follows from the secret among the keys: give them with --key.',
      { field: 'key' },
    );
  const who = { secret: keys?.secret ?? NOBODY.secret, question, id: student };
  const { text, table, fields, file, checked } = kind.sheet(asked, asked.rules, who);
  const key = keys?.keys[question]?.key;
  const right = key === undefined ? null : (kind.right?.(asked.rules, key, who) ?? null);
  return {
    json: { question, kind: asked.kind, student, text, table, fields, file, checked, right },
    text: linesOf({ text, table, fields }, right).join('\n'),
  };
};

function linesOf(
  { text, table, fields }: Pick<Sheet, 'text' | 'table' | 'fields'>,
  right: Readonly<Record<string, Right>> | null,
): string[] {
  return [
    text,
    ...(table ? ['', ...[table.header, ...table.rows].map((row) => row.join('\t'))] : []),
    '',
    ...fields.map(({ key, label, choices }) => {
      const what = choices ? ` (${choices.map(({ value }) => value).join(', ')})` : '';
      const own = right?.[key];
      return `${key}: ${label}${what}${own ? `; right: ${rightText(own)}` : ''}`;
    }),
  ];
}

function rightText(right: Right): string {
  if ('chosen' in right) return right.chosen.length === 0 ? 'none of them' : right.chosen.join(', ');
  const { value, between } = right;
  return between ? `${shortNumber(between[0], 6)} to ${shortNumber(between[1], 6)}` : shortNumber(value, 8);
}

const textOf = async (file: string): Promise<string> => new TextDecoder().decode(await readInput(file));

export const addDraw: AddCommand = (program, start) => {
  program
    .command('draw')
    .description('Show what one student gets of a question and, with the keys, what is right.')
    .argument('<exercise>', 'JSON of a released exercise')
    .requiredOption('--question <id>', 'the question')
    .requiredOption('--student <id>', 'whose variant it is')
    .option('--key <file>', 'JSON of its keys')
    .action(start(run));
};
