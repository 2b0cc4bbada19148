import { SieveError } from '../../../foundation/errors.js';
import { numberOf } from '../../../data/table/cell.js';
import { generator, keyOf } from '../generator.js';

/** The figures of a list of names and numbers. @throws SieveError `plan-value` with the field `answers` */
function figuresIn(answers: readonly (readonly string[])[]) {
  const fail = (message: string) => new SieveError('plan-value', message, { field: 'answers' });
  const all = answers.map(([name = '', text = '']) => {
    const value = numberOf(text.trim());
    if (name.trim() === '') throw fail('A figure has a name.');
    if (!Number.isFinite(value)) throw fail(`${name}: “${text}” is no number.`);
    return { key: keyOf(name.trim()) || 'figure', name: name.trim(), convention: null, figure: { value } };
  });
  if (new Set(all.map(({ key }) => key)).size < all.length) throw fail('Two figures have the same name.');
  return all;
}

export const typedKey = generator({
  key: 'typed-key',
  title: 'figures typed by you',
  about:
    'Figures that are not computed here, such as those of a paper or of another program. Their keys are typed with the place that they come from, which students see.',
  text: 'Answer from {source}. The key of these figures was typed by the instructor.',
  from: 'data',
  of: 'elsewhere',
  parameters: {
    answers: { type: 'pairs', label: 'figures and their keys' },
    source: { type: 'text', label: 'where the keys come from', start: '' },
  },
  sentence: () => 'Ask for {answers}, from {source}.',
  check: ({ answers }) => {
    figuresIn(answers);
  },
  compute: ({ answers, source }) => ({
    given: { source: source.trim() },
    table: null,
    asked: figuresIn(answers),
  }),
});
