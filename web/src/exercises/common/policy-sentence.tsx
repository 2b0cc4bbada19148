import { Text } from '@chakra-ui/react';
import type { FeedbackPolicy, SlipPolicy } from '@modest-sieve/core/assessment';
import { DateTime } from 'luxon';
import { useCourse } from '../../api/course.js';
import { PlanChoice, PlanMoment, PlanNumber, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { Subtitle } from '../../kit/layout/title.js';
import { FEEDBACK } from './feedback-words.js';
import { ProbingNote } from './probing-note.js';
import type { Policy } from './settings.js';

const SLIPS: { value: SlipPolicy; text: string }[] = [
  { value: 'never', text: 'never' },
  { value: 'after-attempt', text: 'after each attempt' },
  { value: 'after-return', text: 'once it is returned' },
];

const PER_DAY = [1, 2, 3, 5, 10];

/** When and how often answers are taken, and what is disclosed of them: what changes after the release, and what does not. */
export function PolicySentence<P extends Policy>({
  policy,
  feedbackRows,
  predictionQuestions,
  onChange,
}: {
  policy: P;
  /** Held-out rows of which a score may be shown. */
  feedbackRows: number;
  /** How many questions are scored on them. */
  predictionQuestions: number;
  onChange: (policy: P) => void;
}) {
  const { timeZone } = useCourse();
  const set = (change: Partial<Policy>) => onChange({ ...policy, ...change });
  return (
    <>
      <Subtitle>Attempts and feedback</Subtitle>
      <TimesSentence times={policy} onChange={set}>
        {', of which the '}
        <PlanChoice
          label="submission that counts"
          value={policy.counts}
          choices={[
            { value: 'best', text: 'best' },
            { value: 'last', text: 'last' },
          ]}
          onChange={(value) => set({ counts: value === 'last' ? 'last' : 'best' })}
        />
        {policy.counts === 'best' && predictionQuestions > 0
          ? ' (of predictions by the score on the feedback rows, of equal ones the latest) counts; open '
          : ' counts; open '}
        <PlanChoice
          label="when it opens"
          value={policy.opensAt === null ? 'now' : 'later'}
          choices={[
            { value: 'now', text: 'from its release' },
            { value: 'later', text: 'from' },
          ]}
          onChange={(value) => set({ opensAt: value === 'now' ? null : inAnHour(timeZone) })}
        />
        {policy.opensAt === null ? null : (
          <>
            {' '}
            <Moment label="opens at" value={policy.opensAt} onChange={(opensAt) => set({ opensAt })} />
          </>
        )}
      </TimesSentence>
      <PlanSentence label="Feedback">
        Until the exercise is returned, show students{' '}
        <PlanChoice
          label="feedback"
          value={policy.feedback}
          choices={Object.entries(FEEDBACK).map(([value, { words }]) => ({ value, text: words }))}
          onChange={(value) => set({ feedback: value as FeedbackPolicy })}
        />
        . Tell them of known mistakes{' '}
        <PlanChoice
          label="when slips are told"
          value={policy.slips ?? 'after-return'}
          choices={SLIPS}
          onChange={(value) => set({ slips: value })}
        />
        .
      </PlanSentence>
      <Text mt={1} fontSize="13px" color="quiet">
        {FEEDBACK[policy.feedback].consequence}
        {' Marks are decided on the other half of the held-out rows.'}
      </Text>
      <ProbingNote
        policy={policy}
        rows={feedbackRows}
        questions={predictionQuestions}
        onPropose={(attempts) => set({ attempts })}
      />
    </>
  );
}

type Times = Pick<Policy, 'attempts' | 'perDay' | 'deadline' | 'graceMinutes' | 'latePercent' | 'lateDays'>;

/** Attempts, deadline and lateness as a sentence. */
export function TimesSentence({
  times,
  onChange,
  children = null,
}: {
  times: Times;
  onChange: (change: Partial<Times>) => void;
  children?: React.ReactNode;
}) {
  const { timeZone } = useCourse();
  const { attempts, perDay, deadline, graceMinutes, latePercent, lateDays } = times;
  return (
    <PlanSentence label="Attempts and deadline">
      <PlanNumber
        label="attempts"
        value={attempts}
        onChange={(value) => onChange({ attempts: value })}
        step={1}
        min={1}
        max={1000}
      />{' '}
      attempts at each question,{' '}
      <PlanChoice
        label="attempts a day"
        value={String(perDay ?? '')}
        choices={[
          { value: '', text: 'any number' },
          ...[...new Set([...PER_DAY, ...(perDay === null ? [] : [perDay])])].map((n) => ({
            value: String(n),
            text: String(n),
          })),
        ]}
        onChange={(value) => onChange({ perDay: value === '' ? null : Number(value) })}
      />{' '}
      a day{children}; due{' '}
      <Moment label="deadline" value={deadline} onChange={(value) => onChange({ deadline: value })} /> (
      {timeZone}), with{' '}
      <PlanNumber
        label="minutes of grace"
        value={graceMinutes}
        onChange={(value) => onChange({ graceMinutes: value })}
        step={1}
        min={0}
        max={10_000}
      />{' '}
      minutes of grace, then{' '}
      <PlanNumber
        label="days late"
        value={lateDays}
        onChange={(value) => onChange({ lateDays: value })}
        step={1}
        min={0}
        max={365}
      />{' '}
      {lateDays === 1 ? 'day' : 'days'} late
      {lateDays === 0 ? null : (
        <>
          {' at '}
          <PlanNumber
            label="percent less a day"
            value={latePercent}
            onChange={(value) => onChange({ latePercent: value })}
            min={0}
            max={100}
            unit="%"
          />{' '}
          less a day
        </>
      )}
      .
    </PlanSentence>
  );
}

/** A time of the course's zone. */
function Moment({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (iso: string) => void;
}) {
  const { timeZone } = useCourse();
  const moment = DateTime.fromISO(value, { zone: timeZone });
  return (
    <PlanMoment
      label={label}
      value={moment.isValid ? moment.toFormat("yyyy-MM-dd'T'HH:mm") : ''}
      onChange={(typed) => onChange(DateTime.fromISO(typed, { zone: timeZone }).toISO() ?? value)}
    />
  );
}

const inAnHour = (zone: string): string =>
  DateTime.now().setZone(zone).plus({ hours: 1 }).startOf('hour').toISO() ?? '';
