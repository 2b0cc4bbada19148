import { describe, expect, it } from '@jest/globals';
import { asked, begun, fileOf, material } from '../../../../test/asked.js';
import { at } from '../../../foundation/numbers.js';
import { CURVE_SLIPS } from './curve-slips.js';

const settings = ['1', '2', '4', '8', '16'];
const training = [0.3, 0.22, 0.15, 0.05, 0];
const validation = [0.32, 0.26, 0.24, 0.27, 0.31];
const right = { chosen: '4', simplest: 'under', complex: 'over' };

/** The slips of a curve that is compared with a run like it. */
function found(fields: Record<string, string>, isTurned = false): string[] {
  const points = settings.map((setting, i) => ({
    ...{ setting, mean: at(validation, i), se: 0.02, training: at(training, i) },
  }));
  const question = begun('curve', {
    values: { setting: 'depth', settings, measure: 'error', rule: 'best' },
    run: 'run',
  });
  const places = settings.map((_, i) => (isTurned ? settings.length - 1 - i : i));
  const lines = places.map((from, i) =>
    [at(settings, i), at(training, from), at(validation, from)].join(','),
  );
  const { slips = [] } = asked(
    question,
    material({ curves: { run: { metric: 'error_rate', points } } }),
  ).hand({
    file: fileOf(`depth,training,validation\n${lines.join('\n')}\n`),
    fields,
  });
  return slips.map(({ id }) => id);
}

describe('slips in curves', () => {
  const MADE: readonly (readonly [slip: string, fields: Record<string, string>, isTurned: boolean])[] = [
    ['training-error-chosen', { ...right, chosen: '16' }, false],
    ['most-complex-chosen', { ...right, chosen: '16' }, false],
    ['fit-exchanged', { ...right, simplest: 'over', complex: 'under' }, false],
    ['axis-reversed', right, true],
  ];

  it.each(MADE)('%s is named where it was made', (slip, fields, isTurned) => {
    expect(found(fields, isTurned)).toContain(slip);
  });

  it('are named in none that is right, and in none that only chooses another setting or names no fault', () => {
    expect(found(right)).toEqual([]);
    expect(found({ ...right, chosen: '2' })).toEqual([]);
    expect(found({ ...right, simplest: 'neither' })).toEqual([]);
  });

  it('have a test each', () => {
    expect(CURVE_SLIPS.map(({ id }) => id).sort()).toEqual(MADE.map(([slip]) => slip).sort());
  });
});
