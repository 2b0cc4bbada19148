import { Text } from '@chakra-ui/react';
import { checkScheme, metricNamed, SieveError, type FeedbackPolicy } from '@modest-sieve/core';
import { DateTime } from 'luxon';
import type { Schemas } from '../api/client.js';
import { useCourse } from '../api/course.js';
import { PlanChoice, PlanMoment, PlanNumber, PlanSentence } from '../kit/plan-sentence.js';
import { MarkLine } from '../kit/mark-line.js';
import { Complaint } from '../kit/states.js';
import { Subtitle } from '../kit/title.js';
import { firstScheme, markingMetrics, type Settings } from './settings.js';

const FEEDBACK: Record<FeedbackPolicy, string> = {
  'after-return': 'nothing but the file checks',
  rounded: 'a rounded score on half of the held-out rows',
};

/** How the question is marked and what students see, as two sentences. */
export function MarkingSentences({
  settings,
  task,
  sd,
  onChange,
}: {
  settings: Settings;
  task: Schemas['Task'];
  sd: number;
  onChange: (settings: Settings) => void;
}) {
  const { timeZone } = useCourse();
  const { scheme } = settings;
  const metric = metricNamed(settings.metric);
  const setScheme = (change: Partial<Settings['scheme']>) =>
    onChange({ ...settings, scheme: { ...scheme, ...change } });
  const deadline = DateTime.fromISO(settings.deadline, { zone: timeZone });
  return (
    <>
      <Subtitle>Question 1: marks</Subtitle>
      <PlanSentence label="Marks">
        Judge by{' '}
        <PlanChoice
          label="metric"
          value={settings.metric}
          choices={markingMetrics(task).map(({ key, name }) => ({ value: key, text: name }))}
          onChange={(key) => onChange({ ...settings, metric: key, scheme: firstScheme(key, sd) })}
        />
        : no marks {metric.better === 'higher' ? 'up to' : 'from'}{' '}
        <PlanNumber
          label="score for nothing"
          value={scheme.nothing}
          onChange={(nothing) => setScheme({ nothing })}
        />
        ,{' '}
        <PlanNumber
          label="marks for most"
          value={scheme.mostMarks}
          onChange={(mostMarks) => setScheme({ mostMarks })}
          step={0.5}
          min={0.5}
        />{' '}
        marks at{' '}
        <PlanNumber label="score for most" value={scheme.most} onChange={(most) => setScheme({ most })} />,
        all{' '}
        <PlanNumber
          label="all marks"
          value={scheme.marks}
          onChange={(marks) => setScheme({ marks })}
          step={1}
          min={1}
          max={1000}
        />{' '}
        {metric.better === 'higher' ? 'from' : 'down to'}{' '}
        <PlanNumber label="score for all" value={scheme.all} onChange={(all) => setScheme({ all })} />.
      </PlanSentence>
      <Text mt={1} fontSize="13px" color="quiet">
        {metric.name}: {metric.definition}.
      </Text>
      <Complaint>{schemeProblem(settings)}</Complaint>
      {schemeProblem(settings) === null ? <MarkLine scheme={scheme} metricKey={metric.key} /> : null}
      <Subtitle>Attempts and feedback</Subtitle>
      <PlanSentence label="Attempts and feedback">
        <PlanNumber
          label="attempts"
          value={settings.attempts}
          onChange={(attempts) => onChange({ ...settings, attempts })}
          step={1}
          min={1}
          max={1000}
        />{' '}
        attempts, of which the{' '}
        <PlanChoice
          label="submission that counts"
          value={settings.counts}
          choices={[
            { value: 'best', text: 'best' },
            { value: 'last', text: 'last' },
          ]}
          onChange={(value) => onChange({ ...settings, counts: value as Settings['counts'] })}
        />{' '}
        counts; due{' '}
        <PlanMoment
          label="deadline"
          value={deadline.isValid ? deadline.toFormat("yyyy-MM-dd'T'HH:mm") : ''}
          onChange={(value) =>
            onChange({
              ...settings,
              deadline: DateTime.fromISO(value, { zone: timeZone }).toISO() ?? settings.deadline,
            })
          }
        />{' '}
        ({timeZone}). Until the exercise is returned, show students{' '}
        <PlanChoice
          label="feedback"
          value={settings.feedback}
          choices={Object.entries(FEEDBACK).map(([value, text]) => ({ value, text }))}
          onChange={(value) => onChange({ ...settings, feedback: value as FeedbackPolicy })}
        />
        .
      </PlanSentence>
    </>
  );
}

function schemeProblem({ scheme, metric }: Settings): string | null {
  try {
    checkScheme(scheme, metricNamed(metric));
    return null;
  } catch (error) {
    if (error instanceof SieveError) return error.message;
    throw error;
  }
}
