// Writes docs/steps.md from the registry of the core: every step of a preparation, its sentence and its parameters.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { format, resolveConfig } from 'prettier';
import { newPlan, STEP_KINDS } from '../core/dist/index.js';
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

const sections = STEP_KINDS.map((kind) => {
  const step = newPlan(kind, []);
  const rows = Object.entries(kind.parameters).map(
    ([key, parameter]) => `| \`${key}\` | ${parameter.label} | ${takes(parameter)} |`,
  );
  return `## ${kind.title}

\`${kind.key}\`: ${kind.about}${kind.learns(step.values) ? ' **It learns from the rows.**' : ''}

> ${kind.sentence(step.values).replace(/\{(\w+)\}/g, '**$1**')}

| key | what it is | what it takes |
| --- | --- | --- |
${rows.join('\n')}`;
});

const text = `# Steps of a preparation

Written from the program's own list by \`npm run api\`. A preparation is a list of steps, each
\`{"kind": …, "values": {…}}\`, with \`"off": true\` for one that is passed over. The list stands in every Data Package
(\`steps.json\`) and is what \`POST …/prepare-preview\` and \`POST …/versions\` take.

${sections.join('\n\n')}
`;
const path = join(ROOT, 'docs/steps.md');
writeFileSync(path, await format(text, { ...(await resolveConfig(path)), filepath: path }));
