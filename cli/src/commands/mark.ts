import { basename } from 'node:path';
import { allHold, SieveError, type Check } from '@modest-sieve/core/foundation';
import {
  markAnswer,
  readExercise,
  readKeys,
  slipOf,
  type Answer,
  type Keys,
  type ModelRun,
  type Rules,
} from '@modest-sieve/core/assessment';
import type { AddCommand, Run } from '../command.js';
import { readInput } from '../files.js';

interface Options {
  readonly key: string;
  readonly question?: string;
  readonly student?: string;
  readonly field?: readonly string[];
}

const MARKS = { holds: '✓', fails: '✕', unsure: '≈' } as const;

const run: Run<Options> = async (
  _,
  [exerciseFile = '', submission],
  { key: keyFile, question, student, field },
) => {
  const { questions, released } = readExercise(await textOf(exerciseFile), exerciseFile);
  const { secret, keys } = readKeys(await textOf(keyFile), keyFile);
  const named = question ?? (questions.length === 1 ? questions[0]?.id : undefined);
  const asked = questions.find(({ id }) => id === named);
  const rules = released.find(({ id }) => id === named)?.rules;
  const key = keys[named ?? '']?.key;
  if (!asked || !rules || !key)
    throw new SieveError(
      'no-such-question',
      `Say with --question which one is answered: ${questions.map(({ id }) => id).join(', ')}.`,
    );
  const file =
    submission === undefined ? null : { name: basename(submission), bytes: await readInput(submission) };
  const fields = Object.fromEntries((field ?? []).map(fieldOf));
  const result = markAnswer(
    asked,
    { file, fields, run: file && (await runOf(file, fields, rules, key)) },
    rules,
    key,
    { who: { secret, question: asked.id, id: student ?? '' }, stepped: false, before: null },
  );
  const { checks, judged, marks, outOf, scored, slips = [] } = result;
  const all = [...checks, ...judged.map(({ check }) => check)];
  return {
    json: { ...result },
    text: [
      ...all.flatMap(linesOf),
      ...(scored
        ? [`${scored.metric} ${scored.final.score.value ?? 'undefined'} on ${scored.final.rows} final rows`]
        : []),
      ...slips.map(
        ({ id, field, evidence }) =>
          `→ ${slipOf(id).title}${field === null ? '' : ` (${field})`}: ${evidence}`,
      ),
      marks === null ? 'not marked' : `${marks} of ${outOf} marks`,
    ].join('\n'),
    holds: allHold(all),
  };
};

/** What a model says of the rows that it is judged by; null for an answer of another kind. */
async function runOf(
  file: NonNullable<Answer['file']>,
  fields: Answer['fields'],
  rules: Rules,
  key: Keys,
): Promise<ModelRun | null> {
  if (!('takes' in rules) || !('features' in key)) return null;
  const { runModel } = await import('@modest-sieve/core/model-files');
  const { training, features, without } = key;
  return runModel({ ...file, fields, rules, training: training.features, heldOut: features, without });
}

const linesOf = ({ outcome, message, measured, expected, examples }: Check): string[] => [
  `${MARKS[outcome]} ${message}${measured === null ? '' : ` (${measured}${outcome === 'holds' || expected === null ? '' : `; expected ${expected}`})`}`,
  ...examples.map(({ text }) => `    ${text}`),
];

/** What was typed: "mean=0.81". @throws SieveError `usage` */
function fieldOf(text: string): [string, string] {
  const at = text.indexOf('=');
  if (at <= 0) throw new SieveError('usage', `--field takes key=value, not “${text}”.`);
  return [text.slice(0, at), text.slice(at + 1)];
}

const textOf = async (file: string): Promise<string> => new TextDecoder().decode(await readInput(file));

export const addMark: AddCommand = (program, start) => {
  program
    .command('mark')
    .description(
      'Check and mark an answer as the server does, before any policy on attempts, deadlines and disclosure.',
    )
    .argument('<exercise>', 'JSON of a released exercise')
    .argument('[submission]', 'the file that was handed in; none where everything was typed')
    .requiredOption('--key <file>', 'JSON of its keys')
    .option('--question <id>', 'the question that is answered, where there are several')
    .option('--student <id>', 'whose draw it is')
    .option('--field <key=value...>', 'what was typed or chosen')
    .action(start(run));
};
