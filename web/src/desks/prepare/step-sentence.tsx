import { Text } from '@chakra-ui/react';
import {
  fitsKind,
  LARGEST_SEED,
  stepKindOf,
  type GivenColumn,
  type Parameter,
  type Step,
  type StepValue,
} from '@modest-sieve/core';
import { Fragment, type ReactNode } from 'react';
import { PlanChoice, PlanNumber, PlanSentence, PlanSeveral } from '../../kit/plan-sentence.js';
import { PlanPairs, PlanText, PlanTexts } from '../../kit/plan-text.js';

/** The pieces of a step's sentence: its words, and the parameters between them. */
function pieces(step: Step): { text: string; key: string | null }[] {
  const kind = stepKindOf(step);
  return kind
    .sentence(step.values)
    .split(/(\{\w+\})/)
    .filter((part) => part !== '')
    .map((part) => {
      const key = /^\{(\w+)\}$/.exec(part)?.[1] ?? null;
      return { text: part, key };
    });
}

/** A step as a sentence to read. */
export function StepText({ step }: { step: Step }) {
  const { parameters } = stepKindOf(step);
  return (
    <>
      {pieces(step).map(({ text, key }, i) => {
        const parameter = key === null ? undefined : parameters[key];
        if (key === null || !parameter) return <Fragment key={i}>{text}</Fragment>;
        return (
          <Text as="b" key={i} overflowWrap="anywhere">
            {valueWords(parameter, step.values[key])}
          </Text>
        );
      })}
    </>
  );
}

function valueWords(parameter: Parameter, value: StepValue | undefined): string {
  const none = ('none' in parameter ? parameter.none : undefined) ?? '…';
  switch (parameter.type) {
    case 'choice':
      return parameter.choices.find((choice) => choice.value === value)?.text ?? String(value);
    case 'pairs':
      return Array.isArray(value) && value.length > 0
        ? value.map((pair) => (Array.isArray(pair) ? pair.join(' → ') : '')).join(', ')
        : none;
    case 'columns':
    case 'several':
    case 'texts':
      return Array.isArray(value) && value.length > 0 ? value.join(', ') : none;
    case 'number':
      return `${String(value)}${parameter.unit ? ` ${parameter.unit}` : ''}`;
    case 'column':
    case 'text':
    case 'formula':
      return typeof value === 'string' && value !== '' ? value : none;
  }
}

/** A step as a sentence whose words are its controls. */
export function StepSentence({
  step,
  given,
  onChange,
}: {
  step: Step;
  /** The columns that it is given; empty until they are known. */
  given: readonly GivenColumn[];
  onChange: (step: Step) => void;
}) {
  const kind = stepKindOf(step);
  const set = (key: string, value: StepValue) =>
    onChange({ ...step, values: { ...step.values, [key]: value } });
  const column = given.find(({ name }) => name === step.values['column']);
  return (
    <PlanSentence label={kind.title}>
      {pieces(step).map(({ text, key }, i) => {
        const parameter = key === null ? undefined : kind.parameters[key];
        if (key === null || !parameter) return <Fragment key={i}>{text}</Fragment>;
        return (
          <Control
            key={key}
            parameter={parameter}
            value={step.values[key]}
            given={given}
            suggestions={column?.values ?? []}
            onChange={(value) => set(key, value)}
          />
        );
      })}
    </PlanSentence>
  );
}

const pairsIn = (value: StepValue | undefined): [string, string][] =>
  Array.isArray(value)
    ? value.flatMap((pair) =>
        Array.isArray(pair) ? [[pair[0] ?? '', pair[1] ?? ''] as [string, string]] : [],
      )
    : [];

function Control({
  parameter,
  value,
  given,
  suggestions,
  onChange,
}: {
  parameter: Parameter;
  value: StepValue | undefined;
  given: readonly GivenColumn[];
  suggestions: readonly string[];
  onChange: (value: StepValue) => void;
}): ReactNode {
  const { label } = parameter;
  const texts = Array.isArray(value) ? value.filter((one): one is string => typeof one === 'string') : [];
  const text = typeof value === 'string' ? value : '';
  switch (parameter.type) {
    case 'columns': {
      const names = given.filter(({ kind }) => fitsKind(kind, parameter.of)).map(({ name }) => name);
      return (
        <PlanSeveral
          label={label}
          values={texts}
          choices={names}
          none={parameter.none ?? 'which columns?'}
          onChange={onChange}
        />
      );
    }
    case 'column': {
      const names = given.filter(({ kind }) => fitsKind(kind, parameter.of)).map(({ name }) => name);
      const shown = text === '' || names.includes(text) ? names : [text, ...names];
      return (
        <PlanChoice
          label={label}
          value={text}
          choices={[
            { value: '', text: parameter.none ?? 'which column?' },
            ...shown.map((name) => ({ value: name, text: name })),
          ]}
          onChange={onChange}
        />
      );
    }
    case 'choice':
      return <PlanChoice label={label} value={text} choices={parameter.choices} onChange={onChange} />;
    case 'several':
      return (
        <PlanSeveral
          label={label}
          values={texts}
          choices={parameter.choices}
          none="what?"
          onChange={onChange}
        />
      );
    case 'number':
      return (
        <PlanNumber
          label={label}
          value={typeof value === 'number' ? value : parameter.start}
          onChange={onChange}
          max={parameter.max ?? LARGEST_SEED}
          {...(parameter.min === undefined ? {} : { min: parameter.min })}
          {...(parameter.step === undefined ? {} : { step: parameter.step })}
          {...(parameter.unit === undefined ? {} : { unit: parameter.unit })}
        />
      );
    case 'text':
    case 'formula':
      return (
        <PlanText
          label={label}
          value={text}
          none={parameter.none ?? (parameter.type === 'formula' ? 'such as weight / 2' : '…')}
          code={parameter.type === 'formula'}
          suggestions={parameter.type === 'text' ? suggestions : []}
          onChange={onChange}
        />
      );
    case 'texts':
      return (
        <PlanTexts
          label={label}
          values={texts}
          none={parameter.none ?? 'what?'}
          suggestions={suggestions}
          onChange={onChange}
        />
      );
    case 'pairs':
      return <PlanPairs label={label} from={suggestions} values={pairsIn(value)} onChange={onChange} />;
  }
}
