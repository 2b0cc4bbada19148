// Writes docs/steps.md, docs/plans.md, docs/models.md, docs/questions.md and docs/slips.md from the registries of the core: every step of a
// preparation, every way of splitting and of making folds, every family of models, every kind of question, with its sentence
// and its parameters.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { format, resolveConfig } from 'prettier';
import { newPlan, STEP_KINDS } from '../core/dist/data/index.js';
import { FOLD_SPLITTERS, SPLITTERS } from '../core/dist/splitting/index.js';
import { MODEL_FAMILIES } from '../core/dist/models/index.js';
import {
  GENERATORS,
  QUESTION_KINDS,
  LIBRARY_STATEMENTS,
  FURTHER_KINDS,
  SLIPS_BY_KIND,
  TOLERANCE_KINDS,
} from '../core/dist/assessment/index.js';
import { ROOT } from './machine.mjs';

const KINDS = {
  number: 'numbers',
  category: 'categories',
  text: 'texts',
  boolean: 'true and false',
  time: 'dates',
};
const ofKinds = (of) => (of ? ` of ${of.map((kind) => KINDS[kind]).join(' or ')}` : '');

function takes(parameter) {
  const none = parameter.none === undefined ? '' : `; left empty: ${parameter.none}`;
  switch (parameter.type) {
    case 'columns':
      return `a list of names of columns${ofKinds(parameter.of)}${none}`;
    case 'column':
      return `the name of a column${ofKinds(parameter.of)}${none}`;
    case 'choice':
      return `one of ${parameter.choices.map(({ value }) => `\`${value}\``).join(', ')}`;
    case 'several':
      return `a list of some of ${parameter.choices.map((value) => `\`${value}\``).join(', ')}`;
    case 'number':
      return `a ${parameter.step === 1 ? 'whole ' : ''}number${parameter.min === undefined ? '' : `, at least ${parameter.min}`}${parameter.max === undefined ? '' : `, at most ${parameter.max}`}`;
    case 'texts':
      return `a list of texts${none}`;
    case 'pairs':
      return 'a list of pairs of texts';
    case 'formula':
      return 'a formula';
    default:
      return `a text${none}`;
  }
}

/** A kind of plan: its title, what it does, its sentence, and a table of its parameters. */
function section(kind, level) {
  const plan = newPlan(kind, []);
  const rows = Object.entries(kind.parameters).map(
    ([key, parameter]) => `| \`${key}\` | ${parameter.label} | ${takes(parameter)} |`,
  );
  const table =
    rows.length === 0
      ? ''
      : `\n\n| key | what it is | what it takes |\n| --- | --- | --- |\n${rows.join('\n')}`;
  const learns = kind.learns?.(plan.values) ? ' **It is fitted to the rows.**' : '';
  const title = kind.title.charAt(0).toUpperCase() + kind.title.slice(1);
  return `${level} ${title}

\`${kind.key}\`: ${kind.about}${learns}

> ${kind.sentence(plan.values).replace(/\{(\w+)\}/g, '**$1**')}${table}`;
}

async function write(file, text) {
  const path = join(ROOT, file);
  writeFileSync(path, await format(text, { ...(await resolveConfig(path)), filepath: path }));
}

await write(
  'docs/steps.md',
  `# Steps of a preparation

Written from the program's own list by \`npm run api\`. A preparation is a list of steps, each
\`{"kind": …, "values": {…}}\`, with \`"off": true\` for one that is passed over. The list is in every Data Package
(\`steps.json\`) and is what \`POST …/prepare-preview\` and \`POST …/versions\` take.

${STEP_KINDS.map((kind) => section(kind, '##')).join('\n\n')}
`,
);
await write(
  'docs/plans.md',
  `# Plans of splits and folds

Written from the program's own lists by \`npm run api\`. A plan is \`{"kind": …, "values": {…}}\`; it is in the address of
the desk Split and is what \`POST …/split-preview\`, \`…/split-record\`, \`…/splits\`, \`…/fold-preview\` and \`…/fold-sets\`
take. Values that the sentence does not show need not be given. A plan names its algorithm when it is kept (\`stratified@1\`), and
the same seed gives the same rows in every later version.

## Ways of splitting

${SPLITTERS.map((kind) => section(kind, '###')).join('\n\n')}

## Ways of making folds

${FOLD_SPLITTERS.map((kind) => section(kind, '###')).join('\n\n')}
`,
);
await write(
  'docs/models.md',
  `# Models

Written from the program's own list by \`npm run api\`. A model is \`{"kind": …, "values": {…}}\`; it is what _Try_ and
\`POST …/trials\` take, and its keys are those of \`sieve fit --model KIND --set KEY=VALUE\`. Every fit learns its preparation from
its training rows: medians fill gaps in numbers, the most frequent level fills those of categories (a tree keeps gaps as they are), a category has its fifty most frequent
levels and one for the rest, dates count in days, of a text the fifty most common words are counted. A level that no training row has
is a missing cell. Regressions leave the first level of a category out. Row weights count wherever the method has them.

${MODEL_FAMILIES.map((kind) => {
  const curves = kind.hyperparameters.map(({ key }) => `\`${key}\``).join(', ');
  return `${section(kind, '##')}\n\nFor ${kind.tasks.join(', ')}. Compared with: ${kind.source}.${curves === '' ? '' : ` A curve may run over ${curves}.`}`;
}).join('\n\n')}
`,
);

const capital = (text) => text.charAt(0).toUpperCase() + text.slice(1);
await write(
  'docs/questions.md',
  `# Questions

Written from the program's own list by \`npm run api\`. An exercise is a list of questions, each with \`id\`, \`kind\`, \`title\` and
\`text\`; but for predictions, whose marks are those of their \`scheme\`, each has \`marks\`. What else it takes is the schema \`Question\` of
[the API](api/openapi.json).

${QUESTION_KINDS.map(({ key, title, about, sentence }) => {
  const options = sentence ? `\n\n${section(sentence, '###').split('\n').slice(2).join('\n')}` : '';
  return `## ${capital(title)}\n\n\`${key}\`: ${about}${options}`;
}).join('\n\n')}

## Further figures of predictions and models

\`further\` of a question that is marked by a score: up to six figures beside the first, each \`{"metric": …, "on": {"kind": …, "values":
{…}}, "scheme": {…}}\`. They are judged on the final rows, are shown when the exercise is returned, and are of ten final rows at least; two of
them differ by ten at least, or by none. Where guesses reach a figure (a gap, recall), it earns no larger share of its marks than the first one.

${FURTHER_KINDS.map((kind) => section(kind, '###')).join('\n\n')}

## What values are computed of

\`figures\` of a question of values. The text that a question begins with is quoted below each.

${GENERATORS.map((kind) => `${section(kind, '###')}\n\n_${kind.text}_`).join('\n\n')}

## Tolerances

${TOLERANCE_KINDS.map((kind) => section(kind, '###')).join('\n\n')}

## The library of statements

${LIBRARY_STATEMENTS.map(({ key, title, from }) => `- \`${key}\`: ${title}${from === 'data' ? ', computed from the training rows' : ', worded at random'}`).join('\n')}
`,
);

const KIND_TITLES = new Map(QUESTION_KINDS.map(({ key, title }) => [key, title]));
await write(
  'docs/slips.md',
  `# Slips

Written from the program's own list by \`npm run api\`. A slip is a known mistake that would have produced exactly this wrong
answer. It is named only where the answer is wrong, the mistake fits to the digits typed, and a wrong answer for another reason
would fit by accident in less than 1 % of cases; of a file, where it would be better by more than three standard errors. How often they are
named where they were made, and where they were not, is in [evidence.md](evidence.md). Results have them as \`slips: [{ id,
question, field, evidence }]\`.

What students read, and when, is a setting of the exercise; slips of predictions and models that are found _with the key_ wait for the
return in any case.

${Object.entries(SLIPS_BY_KIND)
  .map(
    ([kind, slips]) => `## In ${KIND_TITLES.get(/** @type {never} */ (kind))}

| id | mistake | found | what the student is told |
| --- | --- | --- | --- |
${slips.map(({ id, title, from, says, remedy }) => `| \`${id}\` | ${title} | ${from === 'key' ? 'with the key' : 'from the answer alone'} | ${says} ${remedy} |`).join('\n')}`,
  )
  .join('\n\n')}
`,
);
