import { SieveError } from '../errors.js';
import { keyedRandom } from '../random/secret.js';
import type { Who } from '../questions/kind.js';
import type { Planned } from '../sentence/sentence.js';
import type { Drawn } from './draw.js';
import { drawKindOf } from './registry.js';

/** How often a draw is made anew before it is given up. */
const TRIES = 200;

/**
 * What one student gets of a plan in a question: always the same. A draw of which a figure is undefined is never used;
 * the next one is taken.
 *
 * @throws SieveError `no-draw` where no draw has all figures, `plan-kind`
 */
export function deal(plan: Planned, { secret, question, id: person }: Who): Drawn {
  const kind = drawKindOf(plan);
  if (kind.from === 'data')
    throw new SieveError('no-draw', 'This is computed from the data, and not drawn.', { field: 'kind' });
  let reason = '';
  for (let attempt = 0; attempt < TRIES; attempt++) {
    const drawn = kind.draw(
      plan.values,
      keyedRandom(secret, { what: 'draw', question, person, number: attempt }),
    );
    const undefinedOne = drawn.asked.find(({ figure }) => figure.value === null);
    if (!undefinedOne) return drawn;
    if (undefinedOne.figure.value === null) reason = `${undefinedOne.name}: ${undefinedOne.figure.reason}`;
  }
  throw new SieveError('no-draw', `No draw in ${TRIES} has every figure (${reason}). Change what is drawn.`, {
    field: 'asked',
  });
}
