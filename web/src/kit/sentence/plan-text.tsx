import { chakra, Text } from '@chakra-ui/react';
import { useId, useState, type KeyboardEvent } from 'react';
import { PlanChosen, word } from './plan-sentence.js';

/** A text in a sentence, which may be chosen among suggestions. */
export function PlanText({
  label,
  value,
  none,
  code = false,
  suggestions = [],
  onChange,
  onKey,
  onLeave,
}: {
  label: string;
  value: string;
  /** What is there while nothing is chosen. */
  none: string;
  /** Whether it is a formula. */
  code?: boolean;
  suggestions?: readonly string[];
  onChange: (value: string) => void;
  onKey?: (event: KeyboardEvent<HTMLInputElement>) => void;
  onLeave?: () => void;
}) {
  const id = useId();
  return (
    <>
      <chakra.input
        {...word}
        type="text"
        fontFamily={code ? 'mono' : 'body'}
        minW={value === '' ? `${none.length + 1}ch` : '4ch'}
        aria-label={label}
        placeholder={none}
        _placeholder={{ color: 'quiet', fontWeight: 400 }}
        list={suggestions.length > 0 ? id : undefined}
        spellCheck={!code}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        onKeyDown={onKey}
        onBlur={onLeave}
      />
      {suggestions.length > 0 ? (
        <datalist id={id}>
          {suggestions.map((text) => (
            <option key={text} value={text} />
          ))}
        </datalist>
      ) : null}
    </>
  );
}

/** Several texts in a sentence: each can be taken out, and Enter, a comma or leaving the field adds what was typed. */
export function PlanTexts({
  label,
  values,
  none,
  hasCommas = false,
  suggestions = [],
  onChange,
}: {
  label: string;
  values: readonly string[];
  none: string;
  /** Whether a comma is part of a text and does not end it. */
  hasCommas?: boolean;
  suggestions?: readonly string[];
  onChange: (values: string[]) => void;
}) {
  const [text, setText] = useState('');
  const add = (typed: string) => {
    setText('');
    const added = typed.trim();
    if (added !== '' && !values.includes(added)) onChange([...values, added]);
  };
  return (
    <>
      <PlanChosen label={label} values={values} onChange={onChange} />
      <PlanText
        label={label}
        value={text}
        none={values.length === 0 ? none : 'and …'}
        suggestions={suggestions.filter((one) => !values.includes(one))}
        // Choosing a suggestion is meant as it is; typing continues.
        onChange={(next) =>
          suggestions.includes(next) && next.length > text.length + 1 ? add(next) : setText(next)
        }
        onKey={(event) => {
          if (event.key !== 'Enter' && (hasCommas || event.key !== ',')) return;
          event.preventDefault();
          add(text);
        }}
        onLeave={() => add(text)}
      />
    </>
  );
}

/** What becomes of each of several values: a line for each. */
export function PlanPairs({
  label,
  from,
  values,
  onChange,
}: {
  label: string;
  /** The values that there are. */
  from: readonly string[];
  values: readonly (readonly [string, string])[];
  onChange: (values: (readonly [string, string])[]) => void;
}) {
  const given = new Map(values);
  const all = [...new Set([...from, ...given.keys()])];
  const set = (key: string, to: string) => {
    const next = new Map(given);
    if (to === '') next.delete(key);
    else next.set(key, to);
    onChange([...next]);
  };
  return (
    <>
      {all.map((key) => (
        <chakra.span key={key} whiteSpace="nowrap" mr={2}>
          <Text as="span" fontFamily="body" fontSize="16px">
            {key} →{' '}
          </Text>
          <PlanText
            label={`${label}: ${key}`}
            value={given.get(key) ?? ''}
            none="?"
            onChange={(to) => set(key, to)}
          />
        </chakra.span>
      ))}
    </>
  );
}
