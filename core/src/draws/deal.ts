import { SieveError } from '../errors.js';
import { seededRandom } from '../random/random.js';
import type { Planned } from '../sentence/sentence.js';
import type { Drawn } from './draw.js';
import { drawKindOf } from './registry.js';

/** How often a draw is made anew before it is given up. */
const TRIES = 200;

/**
 * What one student gets of a plan: the same for the same seed. A draw of which a figure is undefined is never dealt;
 * the next one of the seed is taken.
 *
 * @param seed of the question
 * @param who names the student
 * @throws SieveError `no-draw` where no draw has all figures, `plan-kind`
 */
export function deal(plan: Planned, seed: number, who: string): Drawn {
  const kind = drawKindOf(plan);
  if (kind.from === 'data')
    throw new SieveError('no-draw', 'This is computed from the data, and not drawn.', { field: 'kind' });
  let reason = '';
  for (let attempt = 0; attempt < TRIES; attempt++) {
    const drawn = kind.draw(plan.values, seededRandom(seed, `draw ${attempt} ${who}`));
    const undefinedOne = drawn.asked.find(({ figure }) => figure.value === null);
    if (!undefinedOne) return drawn;
    if (undefinedOne.figure.value === null) reason = `${undefinedOne.name}: ${undefinedOne.figure.reason}`;
  }
  throw new SieveError('no-draw', `No draw in ${TRIES} has every figure (${reason}). Change what is drawn.`, {
    field: 'asked',
  });
}
