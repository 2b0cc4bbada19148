import { Box, Text } from '@chakra-ui/react';
import { SieveError } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import {
  askable,
  checkFurther,
  firstScheme,
  FURTHER_KINDS,
  furtherKindOf,
  furtherMetric,
  furtherTitle,
  markingMetrics,
  MOST_FURTHER,
  newFurther,
  type FurtherFigure,
} from '@modest-sieve/core/assessment';
import { TextAction } from '../../kit/form/action.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { PlanChoice, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { SentenceControls } from '../../kit/sentence/sentence.js';
import { Subtitle } from '../../kit/layout/title.js';
import type { Data } from '../common/settings.js';
import { SchemeWords } from './scheme-words.js';

/** Figures beside the first one: other metrics, subgroups, the worst of them, or the gap between them. */
export function FurtherFigures({
  further,
  data,
  onChange,
}: {
  further: readonly FurtherFigure[];
  data: Data;
  onChange: (further: readonly FurtherFigure[]) => void;
}) {
  const replace = (place: number, one: FurtherFigure) =>
    onChange(further.map((other, i) => (i === place ? one : other)));
  return (
    <>
      <Subtitle>Further figures</Subtitle>
      {further.map((one, i) => (
        <OneFigure
          key={i}
          one={one}
          place={i}
          data={data}
          onChange={(changed) => replace(i, changed)}
          onRemove={() => onChange(further.filter((_, other) => other !== i))}
        />
      ))}
      <Text fontSize="13px" color="quiet">
        Each has marks of its own, is judged on the final rows, and is shown when the exercise is returned.
      </Text>
      {further.length < MOST_FURTHER ? (
        <Box mt={2}>
          <TextAction
            onClick={() => onChange([...further, begunFigure('all', data, metricNotIn(further, data))])}
          >
            Add a figure
          </TextAction>
        </Box>
      ) : null}
    </>
  );
}

/** The first metric that is not asked for yet. */
const metricNotIn = (further: readonly FurtherFigure[], { roles }: Data): string =>
  markingMetrics(roles.task).find(({ key }) => further.every((one) => one.metric !== key))?.key ?? '';

/** A figure as it is begun. */
function begunFigure(kind: string, data: Data, metric: string): FurtherFigure {
  const scheme = firstScheme(metricNamed(metric), data.sd);
  return newFurther(furtherKindOf({ kind }), data, metric, { ...scheme, mostMarks: 2, marks: 3 });
}

function OneFigure({
  one,
  place,
  data,
  onChange,
  onRemove,
}: {
  one: FurtherFigure;
  place: number;
  data: Data;
  onChange: (one: FurtherFigure) => void;
  onRemove: () => void;
}) {
  const kind = furtherKindOf(one.on);
  const title = furtherTitle(one);
  return (
    <Box mt={2} mb={4} role="group" aria-label={`Further figure ${place + 1}`}>
      <SentenceControls
        kind={kind}
        plan={one.on}
        label="Which rows"
        given={askable(data).map(({ name, kind: of }) => ({ name, kind: of, values: [] }))}
        before={
          <>
            Judge also by{' '}
            <PlanChoice
              label="further metric"
              value={one.metric}
              choices={markingMetrics(data.roles.task).map(({ key, name }) => ({ value: key, text: name }))}
              onChange={(metric) => onChange({ ...begunFigure(kind.key, data, metric), on: one.on })}
            />{' '}
            of{' '}
            <PlanChoice
              label="which rows"
              value={kind.key}
              choices={FURTHER_KINDS.map((of) => ({ value: of.key, text: of.title }))}
              onChange={(key) => onChange(begunFigure(key, data, one.metric))}
            />
            :{' '}
          </>
        }
        onChange={(on) => onChange({ ...one, on })}
      />
      <PlanSentence label="Marks of the figure">
        It earns{' '}
        <SchemeWords
          scheme={one.scheme}
          better={furtherMetric(one).better}
          onChange={(change) => onChange({ ...one, scheme: { ...one.scheme, ...change } })}
        />
        .
      </PlanSentence>
      <ErrorMessage>{problemOf(one, data)}</ErrorMessage>
      <TextAction label={`Remove ${title}`} onClick={onRemove}>
        Remove
      </TextAction>
    </Box>
  );
}

function problemOf(one: FurtherFigure, data: Data): string | null {
  try {
    checkFurther([one], data);
    return null;
  } catch (error) {
    if (error instanceof SieveError) return error.message;
    throw error;
  }
}
