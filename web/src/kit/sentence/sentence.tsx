import { Text } from '@chakra-ui/react';
import { LARGEST_SEED } from '@modest-sieve/core/foundation';
import {
  fitsKind,
  type ChoiceParameter,
  type GivenColumn,
  type Parameter,
  type Plan,
  type PlanValue,
  type SentenceKind,
} from '@modest-sieve/core/data';
import { Fragment, type ReactNode } from 'react';
import { PlanChoice, PlanNumber, PlanSentence, PlanSeveral } from './plan-sentence.js';
import { PlanPairs, PlanText, PlanTexts } from './plan-text.js';

/** The pieces of a sentence: its words, and the parameters between them. */
function pieces(kind: SentenceKind, { values }: Plan): { text: string; key: string | null }[] {
  return kind
    .sentence(values)
    .split(/(\{\w+\})/)
    .filter((part) => part !== '')
    .map((part) => {
      const key = /^\{(\w+)\}$/.exec(part)?.[1] ?? null;
      return { text: part, key };
    });
}

/** A plan as a sentence to read. */
export function SentenceText({ kind, plan }: { kind: SentenceKind; plan: Plan }) {
  return (
    <>
      {pieces(kind, plan).map(({ text, key }, i) => {
        const parameter = key === null ? undefined : kind.parameters[key];
        if (key === null || !parameter) return <Fragment key={i}>{text}</Fragment>;
        return (
          <Text as="b" key={i} overflowWrap="anywhere">
            {valueWords(parameter, plan.values[key])}
          </Text>
        );
      })}
    </>
  );
}

/** The choice that a value stands for; left out it is the first one. */
const choiceOf = ({ choices }: ChoiceParameter, value: PlanValue | undefined) =>
  value === undefined ? choices[0] : choices.find((choice) => choice.value === value);

function valueWords(parameter: Parameter, value: PlanValue | undefined): string {
  const none = ('none' in parameter ? parameter.none : undefined) ?? '…';
  switch (parameter.type) {
    case 'choice':
      return choiceOf(parameter, value)?.text ?? String(value);
    case 'pairs':
      return Array.isArray(value) && value.length > 0
        ? value.map((pair) => (Array.isArray(pair) ? pair.join(' → ') : '')).join(', ')
        : none;
    case 'columns':
    case 'several':
    case 'texts':
      return Array.isArray(value) && value.length > 0 ? value.join(', ') : none;
    case 'number':
      return `${String(value ?? parameter.start)}${parameter.unit ? ` ${parameter.unit}` : ''}`;
    case 'column':
    case 'text':
    case 'formula':
      return typeof value === 'string' && value !== '' ? value : none;
  }
}

/** A plan as a sentence whose words are its controls. */
export function SentenceControls<P extends Plan>({
  kind,
  plan,
  label = kind.title,
  given,
  suggested = {},
  before,
  onChange,
}: {
  kind: SentenceKind;
  plan: P;
  label?: string;
  /** The columns that there are; empty until they are known. */
  given: readonly GivenColumn[];
  /** What may be chosen for a text, by the key of its parameter, where that is not the values of a column. */
  suggested?: Readonly<Record<string, readonly string[]>>;
  /** What comes before the sentence. */
  before?: ReactNode;
  onChange: (plan: P, key: string) => void;
}) {
  const set = (key: string, value: PlanValue) =>
    onChange({ ...plan, values: { ...plan.values, [key]: value } }, key);
  const column = given.find(({ name }) => name === plan.values['column']);
  return (
    <PlanSentence label={label}>
      {before}
      {pieces(kind, plan).map(({ text, key }, i) => {
        const parameter = key === null ? undefined : kind.parameters[key];
        if (key === null || !parameter) return <Fragment key={i}>{text}</Fragment>;
        return (
          <Control
            key={key}
            parameter={parameter}
            value={plan.values[key]}
            given={given}
            suggestions={suggested[key] ?? column?.values ?? []}
            onChange={(value) => set(key, value)}
          />
        );
      })}
    </PlanSentence>
  );
}

const pairsIn = (value: PlanValue | undefined): [string, string][] =>
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
  value: PlanValue | undefined;
  given: readonly GivenColumn[];
  suggestions: readonly string[];
  onChange: (value: PlanValue) => void;
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
      return (
        <PlanChoice
          label={label}
          value={choiceOf(parameter, value)?.value ?? text}
          choices={parameter.choices}
          onChange={onChange}
        />
      );
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
          hasCommas={parameter.hasCommas ?? false}
          suggestions={suggestions}
          onChange={onChange}
        />
      );
    case 'pairs':
      return <PlanPairs label={label} from={suggestions} values={pairsIn(value)} onChange={onChange} />;
  }
}
