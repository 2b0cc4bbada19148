import { Text } from '@chakra-ui/react';
import type { Growth } from '@modest-sieve/core/models';
import { Subtitle } from '../../../kit/layout/title.js';
import { axisOf } from '../../../kit/plot/axis.js';
import { LinePlot } from '../../../kit/plot/line-plot.js';
import type { Schemas } from '../../../api/client.js';
import { errorOverFolds } from './growth-folds.js';
import { figureText } from '../../../kit/table/format.js';

const ONE = { trees: 'tree', rounds: 'round', epochs: 'epoch', models: 'model' } as const;

/** Where rows were held out, and what follows from the curve. */
const aboutHeldOut = (rows: NonNullable<Growth['heldOut']>['rows'], of: Growth['of']): string =>
  rows === 'out of bag'
    ? `Each row is predicted by the ${of} that have not seen it. Where the line runs level, more ${of} change nothing; a mean of many does not overfit by their number.`
    : 'A line of the held-out rows that turns up while that of the training rows falls is a sign of memorising.';

/** The error of the model as it grew, tree by tree or round by round. */
export function GrowthPlot({ growth, trial }: { growth: Growth; trial: Schemas['TrialDetail'] }) {
  const { of, measure, training, heldOut } = growth;
  const title = heldOut?.rows === 'out of bag' ? `Out-of-bag error by ${of}` : `Error by ${of}`;
  const points = (values: readonly (number | null)[]) =>
    values.flatMap((y, i) => (y === null ? [] : [{ x: i + 1, y }]));
  const folds = errorOverFolds(growth, trial);
  const count = Math.max(training?.length ?? 0, heldOut?.values.length ?? 0, ...folds.map(({ x }) => x));
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
                  colour: folds.length > 0 ? 'accent' : 'validation',
                  dash: '6 4',
                },
              ]
            : []),
          ...(folds.length > 0
            ? [
                {
                  name: 'V, over the folds, ± standard error',
                  points: folds,
                  colour: 'validation',
                  dash: '2 3',
                },
              ]
            : []),
        ]}
        x={{
          title: of,
          domain: [0, count],
          ticks: axisOf([0, count], [0, null]).ticks.filter((tick) => tick <= count),
        }}
        y={{ title: measure, bounds: [0, null] }}
      />
      {folds.length > 0 && heldOut?.rows === 'out of bag' ? (
        <Text fontSize="13.5px" color="quiet">
          Two views of rows that were not seen: out of bag by the {of} that left a row out, over the folds by
          models that were fitted without it. The models of the folds have fewer training rows.
        </Text>
      ) : null}
      {heldOut && last && best ? (
        <Text fontSize="13.5px" color="quiet">
          {aboutHeldOut(heldOut.rows, of)} After the last {ONE[of]} the {measure} is {figureText(last.y)}; it
          is least after {ONE[of]} {best.x}: {figureText(best.y)}.
        </Text>
      ) : null}
    </>
  );
}
