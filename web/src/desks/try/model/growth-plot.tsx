import { Text } from '@chakra-ui/react';
import type { Growth } from '@modest-sieve/core/models';
import { Subtitle } from '../../../kit/layout/title.js';
import { LinePlot } from '../../../kit/plot/line-plot.js';
import { figureText } from '../../../kit/table/format.js';

const ONE = { trees: 'tree', rounds: 'round', epochs: 'epoch' } as const;

/** Where rows were held out, and what follows from the curve. */
const ABOUT = {
  'out of bag':
    'Each row is predicted by the trees that have not seen it. Where the line runs level, more trees change nothing; a forest does not overfit by them.',
  validation:
    'Where the line of the held-out rows turns up while that of the training rows falls, the model memorises.',
} as const;

/** The error of the model as it grew, tree by tree or round by round. */
export function GrowthPlot({ growth }: { growth: Growth }) {
  const { of, measure, training, heldOut } = growth;
  const title = `Error by ${of}`;
  const points = (values: readonly (number | null)[]) =>
    values.flatMap((y, i) => (y === null ? [] : [{ x: i + 1, y }]));
  const held = heldOut ? points(heldOut.values) : [];
  const last = held.at(-1);
  const best = held.reduce((so, point) => (so && so.y <= point.y ? so : point), held[0]);
  return (
    <>
      <Subtitle>{title}</Subtitle>
      <LinePlot
        label={title}
        series={[
          ...(training
            ? [{ name: 'T, on training rows', points: points(training), colour: 'training' as const }]
            : []),
          ...(heldOut
            ? [
                {
                  name: heldOut.rows === 'out of bag' ? 'out of bag' : 'held out of the training rows',
                  points: held,
                  colour: 'validation' as const,
                  dash: '6 4',
                },
              ]
            : []),
        ]}
        x={{ title: of }}
        y={{ title: measure, bounds: [0, null] }}
      />
      {heldOut && last && best ? (
        <Text fontSize="13.5px" color="quiet">
          {ABOUT[heldOut.rows]} {measure} {figureText(last.y)} after the last {ONE[of]}, least{' '}
          {figureText(best.y)} after {best.x}.
        </Text>
      ) : null}
    </>
  );
}
