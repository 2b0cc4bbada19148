import { Box, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import type { Schemas } from '../../api/client.js';
import { CheckList } from '../layout/checks.js';
import { figureText, percent } from '../table/format.js';
import { LinePlot } from './line-plot.js';
import { PlanNumber, PlanSentence } from '../sentence/plan-sentence.js';
import { Subtitle } from '../layout/title.js';
import { cheapest, nearestThreshold } from './thresholds.js';

type Classes = NonNullable<Schemas['TrialEvidence']['classes']>;

/** Of two classes the ROC curve, the calibration, and a threshold with its costs. */
export function ClassCurves({ classes }: { classes: Classes }) {
  const { labels, roc, calibration, calibrated, positive } = classes;
  if (positive === null) return null;
  const label = labels[positive] ?? '';
  const judged = calibration.filter(({ mean }) => mean !== null);
  return (
    <>
      <Threshold classes={classes} label={label} />
      <Subtitle>ROC curve</Subtitle>
      <LinePlot
        label="ROC curve"
        series={[{ name: 'recall', colour: 'accent', points: roc.map(({ x, y }) => ({ x, y })) }]}
        x={{ title: 'false-positive rate', domain: [0, 1], ticks: [0, 0.25, 0.5, 0.75, 1] }}
        y={{ title: 'recall', domain: [0, 1], ticks: [0, 0.25, 0.5, 0.75, 1] }}
        diagonal
      />
      <Subtitle>Calibration</Subtitle>
      <LinePlot
        label="Calibration"
        series={[
          {
            name: 'came true',
            colour: 'accent',
            dots: true,
            points: judged.map(({ mean, positive: share }) => ({ x: mean ?? 0, y: share ?? 0 })),
          },
        ]}
        x={{ title: `predicted probability of ${label}`, domain: [0, 1], ticks: [0, 0.25, 0.5, 0.75, 1] }}
        y={{ title: 'share that came true', domain: [0, 1], ticks: [0, 0.25, 0.5, 0.75, 1] }}
        diagonal
      />
      {calibrated ? <CheckList label="Calibration in words" checks={[calibrated]} /> : null}
    </>
  );
}

/** What a threshold gives, and the one at which the costs of both mistakes are lowest. */
function Threshold({ classes, label }: { classes: Classes; label: string }) {
  const [threshold, setThreshold] = useState(0.5);
  const [missed, setMissed] = useState(1);
  const [alarm, setAlarm] = useState(1);
  const row = nearestThreshold(classes.thresholds, threshold);
  const isThinned = classes.allThresholds > classes.thresholds.length;
  const best = cheapest(classes.thresholds, { missed, alarm });
  if (!row) return null;
  const { tp, fp, fn, tn } = row;
  return (
    <Box mt={4}>
      <PlanSentence label="Threshold">
        Say <b>{label}</b> from a probability of{' '}
        <PlanNumber label="threshold" value={threshold} min={0} max={1} onChange={setThreshold} /> on; a
        missed one costs{' '}
        <PlanNumber label="cost of a missed one" value={missed} min={0} onChange={setMissed} />, a false alarm{' '}
        <PlanNumber label="cost of a false alarm" value={alarm} min={0} onChange={setAlarm} />.
      </PlanSentence>
      <Text fontSize="13.5px" color="quiet" role="status">
        {tp} found, {fn} missed, {fp} false alarms, {tn} correctly left: recall {percent(tp / (tp + fn))},
        precision {tp + fp > 0 ? percent(tp / (tp + fp)) : 'undefined'}, cost{' '}
        {figureText(fn * missed + fp * alarm)}.
        {best
          ? ` It is lowest, ${figureText(best.cost)}, from ${figureText(best.threshold)} on: this threshold is chosen on the rows that judge it, and new rows usually cost more. `
          : ' '}
        {isThinned
          ? `Of ${count(classes.allThresholds)} thresholds ${count(classes.thresholds.length)} are looked at.`
          : ''}
      </Text>
    </Box>
  );
}
