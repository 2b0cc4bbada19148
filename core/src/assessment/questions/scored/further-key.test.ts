import { describe, expect, it } from '@jest/globals';
import { asked } from '../../../../test/asked.js';
import { tableOf } from '../../../../test/files.js';
import { Body } from '../contract/body.js';
import { questionKindOf } from '../registry.js';
import type { FurtherFigure } from './further.js';
import { further, higher, material, question } from './further-of-tests.js';

describe('a further figure that cannot be', () => {
  const refused = (figure: FurtherFigure, message: string, field: string, from = material()) => {
    expect.assertions(2);
    try {
      asked(question(figure), from);
    } catch (error) {
      expect((error as Error).message).toContain(message);
      expect(error).toMatchObject({ place: { field } });
    }
  };
  it('of so few final rows that they show', () => {
    refused(
      further('accuracy', 'where', { on: { kind: 'where', values: { condition: 'hives > 11' } } }),
      'is of 0 final rows: at least 10 are needed.',
      'further.0.on',
    );
  });
  it('that differs from another by so few rows that it shows them', () => {
    const few = tableOf(
      `colony,region,survived,p\n${Array.from({ length: 100 }, (_, i) => `c${i},${i > 95 ? 'hill' : 'north'},${i % 3 === 0 ? 'no' : 'yes'},0`).join('\n')}\n`,
    );
    refused(
      further('accuracy', 'value', { on: { kind: 'value', values: { column: 'region', value: 'north' } } }),
      '4 final rows would be the difference between two of the figures',
      'further.0.on',
      material(few, 40),
    );
  });
  it.each([
    // Of two subgroups the worst and the gap say both figures, and the first figure then those of the four rows without one.
    [
      'by two values of which four rows have none',
      (i: number) => (i >= 96 ? '' : i % 2 === 0 ? 'north' : 'hill'),
      'worst',
    ],
    // Of three one figure is known: here a subgroup lies within a set that is larger by four rows.
    ['within a set that is larger by a few', (i: number) => ['north', 'hill', 'coast'][i % 3] ?? '', 'worst'],
  ])('%s', (_, region, on) => {
    const few = tableOf(
      `colony,region,hives,survived,p\n${Array.from({ length: 100 }, (_row, i) => `c${i},${region(i)},${region(i) === 'north' || i > 95 ? 1 : 2},${i % 5 === 0 ? 'no' : 'yes'},0`).join('\n')}\n`,
    );
    expect(() =>
      asked(
        question(
          further('accuracy', on, { on: { kind: on, values: { column: 'region' } } }),
          ...(region(99) === ''
            ? []
            : [further('accuracy', 'where', { on: { kind: 'where', values: { condition: 'hives == 1' } } })]),
        ),
        material(few, 40),
      ),
    ).toThrow('would be the difference between two of the figures');
  });
  it.each(['survived', 'p', 'colony'])('by %s, which students do not have or which names rows', (column) => {
    refused(
      further('accuracy', 'worst', { on: { kind: 'worst', values: { column } } }),
      `There is no column “${column}”.`,
      'further.0.column',
    );
  });
  it('by a condition of the target', () => {
    refused(
      further('accuracy', 'where', { on: { kind: 'where', values: { condition: 'survived == "yes"' } } }),
      'survived',
      'further.0.condition',
    );
  });
  it('that is undefined whatever is predicted', () => {
    const one = tableOf(
      `colony,region,survived,p\n${Array.from({ length: 100 }, (_, i) => `c${i},${i % 2 === 0 ? 'hill' : 'north'},${i % 2 === 0 || i % 3 === 0 ? 'no' : 'yes'},0`).join('\n')}\n`,
    );
    refused(
      further('recall', 'worst'),
      'recall (sensitivity) in the worst subgroup by region is undefined for hill, whatever is predicted:',
      'further.0.on',
      material(one, 40),
    );
  });
  it('by a value that is not there', () => {
    refused(
      further('accuracy', 'value', { on: { kind: 'value', values: { column: 'region', value: 'moon' } } }),
      'No held-out row has region “moon”; there are coast, hill, north, south.',
      'further.0.value',
    );
  });
  it('with the benefit of the doubt, or points the wrong way round', () => {
    refused(
      further('accuracy', 'gap', { scheme: higher }),
      'The points must get lower from nothing to most to all: for a gap of accuracy, lower is better.',
      'further.0.most',
    );
  });
  it('in a body with fields that nobody knows', () => {
    const body = new Body({
      metric: 'accuracy',
      scheme: higher,
      further: [{ ...further('accuracy', 'gap'), where: 'x' }],
    });
    questionKindOf('predictions').from({ id: 'q', title: '', text: '' }, body);
    expect(() => {
      body.refuseOthers();
    }).toThrow('There is nothing called further.0.where.');
  });
});
