import { SieveError } from '../../foundation/errors.js';
import { keyedRandom } from '../../foundation/random/secret.js';
import type { Respondent } from './respondent.js';
import type { Plan } from '../../data/sentence/sentence.js';
import { lostFigure, type GeneratedItem } from './generator.js';
import { generatorOf } from './registry.js';

/** How often a draw is made again before it is given up. */
const TRIES = 200;

/**
 * What one student gets of a plan in a question: always the same. A draw of which a figure is undefined is never used;
 * the next one is taken.
 *
 * @throws SieveError `no-draw` where no draw has all figures, `plan-kind`
 */
export function generate(plan: Plan, { secret, question, id: person }: Respondent): GeneratedItem {
  const kind = generatorOf(plan);
  if (kind.from === 'data')
    throw new SieveError('no-draw', 'This is computed from the data, and not drawn.', { field: 'kind' });
  let reason = '';
  for (let attempt = 0; attempt < TRIES; attempt++) {
    const drawn = kind.draw(
      plan.values,
      keyedRandom(secret, { what: 'draw', question, person, number: attempt }),
    );
    const lost = lostFigure(drawn.asked);
    if (lost === null) return drawn;
    reason = lost;
  }
  throw new SieveError('no-draw', `No draw in ${TRIES} has every figure (${reason}). Change what is drawn.`, {
    field: 'asked',
  });
}
