// Writes docs/steps.md and docs/plans.md from the registries of the core: every step of a preparation, every way of parting
// rows and of making folds, with its sentence and its parameters.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { format, resolveConfig } from 'prettier';
import { FOLD_KINDS, newPlan, SPLIT_KINDS, STEP_KINDS } from '../core/dist/index.js';
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
  const learns = kind.learns?.(plan.values) ? ' **It learns from the rows.**' : '';
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
\`{"kind": …, "values": {…}}\`, with \`"off": true\` for one that is passed over. The list stands in every Data Package
(\`steps.json\`) and is what \`POST …/prepare-preview\` and \`POST …/versions\` take.

${STEP_KINDS.map((kind) => section(kind, '##')).join('\n\n')}
`,
);
await write(
  'docs/plans.md',
  `# Plans of splits and folds

Written from the program's own lists by \`npm run api\`. A plan is \`{"kind": …, "values": {…}}\`; it stands in the address of
the desk Split and is what \`POST …/split-preview\`, \`…/split-record\`, \`…/splits\`, \`…/fold-preview\` and \`…/fold-sets\`
take. Values that the sentence does not show need not be given. A plan names its algorithm when it is kept (\`stratified@1\`), and
the same seed gives the same rows in every later version.

## Ways of parting rows

${SPLIT_KINDS.map((kind) => section(kind, '###')).join('\n\n')}

## Ways of making folds

${FOLD_KINDS.map((kind) => section(kind, '###')).join('\n\n')}
`,
);
