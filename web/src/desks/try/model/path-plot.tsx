import { Text } from '@chakra-ui/react';
import { shortNumber } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import type { Schemas } from '../../../api/client.js';
import { LinePlot } from '../../../kit/plot/line-plot.js';
import { PlanNumber } from '../../../kit/sentence/plan-sentence.js';
import { Subtitle } from '../../../kit/layout/title.js';

type Path = NonNullable<NonNullable<Schemas['TrialDetail']['model']>['path']>;

/** The terms that a path is drawn of: those with the longest way, since more lines cannot be distinguished. */
const MOST_TERMS = 8;
const COLOURS = ['accent', 'heldout', 'training', 'validation', 'fails', 'holds', 'figure', 'unsure'];
const DASHES = [undefined, '7 4', '2 3', '9 3 2 3', '1 4', '12 4', '4 2', '6 2 1 2'];

/** Coefficients as the penalty falls, on the scale of a feature's own spread or as they are. */
export function PathPlot({ path, trial }: { path: Path; trial: Schemas['TrialDetail'] }) {
  const [most, setMost] = useState(Math.min(MOST_TERMS, path.terms.length));
  const length = (term: number) =>
    path.points.reduce((largest, point) => Math.max(largest, Math.abs(point.coefficients[term] ?? 0)), 0);
  const order = path.terms
    .map((name, term) => ({
      name,
      term,
      first: path.points.findIndex((point) => point.coefficients[term] !== 0),
    }))
    .sort((a, b) => a.first - b.first || length(b.term) - length(a.term))
    .slice(0, most);
  const chosen = trial.result?.chosen.values['penalty'] ?? Number(trial.plan.model.values['penalty']);
  const at = path.points.findIndex(({ penalty }) => penalty <= chosen * (1 + 1e-9));
  const last = path.points.length - 1;
  const text = (position: number) => shortNumber(path.points[Math.round(position)]?.penalty ?? 0, 2);
  const ticks = [0, 0.25, 0.5, 0.75, 1].map((share) => Math.round(share * last));
  return (
    <>
      <Subtitle>Coefficients along the penalty</Subtitle>
      <Text fontSize="13.5px" color="quiet">
        The first{' '}
        <PlanNumber
          label="terms that are drawn"
          value={most}
          min={1}
          max={MOST_TERMS}
          step={1}
          onChange={setMost}
        />{' '}
        to leave 0, of {path.terms.length}. From a penalty that lets none in, at the left, to hardly any at
        the right.
      </Text>
      <LinePlot
        label="Coefficients along the penalty"
        height={320}
        series={order.map(({ name, term }, i) => ({
          name,
          colour: COLOURS[i] ?? 'accent',
          ...(DASHES[i] === undefined ? {} : { dash: DASHES[i] }),
          points: path.points.map((point, x) => ({ x, y: point.coefficients[term] ?? 0 })),
        }))}
        x={{ title: 'penalty', domain: [0, last], ticks, text }}
        y={{ title: 'coefficient' }}
        lines={[{ y: 0, text: '' }]}
        areas={at >= 0 ? [{ from: Math.max(0, at - 0.4), to: Math.min(last, at + 0.4), text: 'chosen' }] : []}
      />
      <LinePlot
        label="How many coefficients are not 0"
        height={170}
        series={[
          {
            name: 'coefficients that are not 0',
            colour: 'figure',
            step: true,
            points: path.points.map((point, x) => ({ x, y: point.nonzero })),
          },
        ]}
        x={{ title: 'penalty', domain: [0, last], ticks, text }}
        y={{ title: 'not 0', bounds: [0, null] }}
      />
    </>
  );
}
