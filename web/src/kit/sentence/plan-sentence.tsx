import { Box, chakra, Text } from '@chakra-ui/react';
import { useState, type ReactNode } from 'react';

/** A plan written as one readable sentence, whose underlined words are its controls. */
export function PlanSentence({ children, label }: { children: ReactNode; label: string }) {
  return (
    <Box role="group" aria-label={label} fontFamily="heading" fontSize="19px" lineHeight={1.75} maxW="72ch">
      {children}
    </Box>
  );
}

export const word = {
  display: 'inline',
  fontFamily: 'body',
  fontSize: '16px',
  fontWeight: 700,
  color: 'accent',
  bg: 'transparent',
  border: 'none',
  borderBottom: '2px solid',
  borderColor: 'accent',
  borderRadius: 0,
  px: '4px',
  py: 0,
  maxW: '100%',
  fieldSizing: 'content',
  minW: '2ch',
  _hover: { bg: 'sheet' },
} as const;

interface Choice<T extends string> {
  readonly value: T;
  readonly text: string;
  /** Choices of one group stand together under its name. */
  readonly group?: string;
}

export function PlanChoice<T extends string>({
  label,
  value,
  choices,
  onChange,
}: {
  label: string;
  value: T;
  choices: readonly Choice<T>[];
  onChange: (value: T) => void;
}) {
  return (
    <chakra.select
      {...word}
      appearance="none"
      cursor="pointer"
      aria-label={label}
      value={value}
      onChange={(event) => {
        const chosen = choices.find((one) => one.value === event.target.value);
        if (chosen) onChange(chosen.value);
      }}
    >
      {groupsOf(choices).map(({ group, members }) =>
        group === '' ? (
          <Options key={group} of={members} />
        ) : (
          <optgroup key={group} label={group}>
            <Options of={members} />
          </optgroup>
        ),
      )}
    </chakra.select>
  );
}

const Options = ({ of }: { of: readonly Choice<string>[] }) =>
  of.map((choice) => (
    <option key={choice.value} value={choice.value}>
      {choice.text}
    </option>
  ));

/** Choices by their group, in order; those without one stand alone. */
function groupsOf(choices: readonly Choice<string>[]) {
  const groups = new Map<string, Choice<string>[]>();
  for (const choice of choices) {
    const group = choice.group ?? '';
    groups.set(group, [...(groups.get(group) ?? []), choice]);
  }
  return [...groups].map(([group, members]) => ({ group, members }));
}

/** A number in a sentence. What is typed counts once it is a number in range; until then the sentence says what is wrong. */
export function PlanNumber({
  label,
  value,
  onChange,
  min,
  max,
  step = 'any',
  unit = '',
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
  min?: number;
  max?: number;
  step?: number | 'any';
  unit?: string;
}) {
  const [text, setText] = useState(String(value));
  const [seen, setSeen] = useState(value);
  /** What was typed and is on its way: on a slow machine more is typed before it comes back as the value. */
  const [sent, setSent] = useState<readonly number[]>([]);
  if (seen !== value) {
    setSeen(value);
    const own = sent.lastIndexOf(value);
    setSent(sent.slice(own + 1));
    // A value from elsewhere takes the place of what is here; one's own does not.
    if (own < 0) setText(String(value));
  }
  const change = (next: string) => {
    setText(next);
    if (problemWith(next, step, min, max) !== null) return;
    setSent([...sent, Number(next)]);
    onChange(Number(next));
  };
  const wrong = problemWith(text, step, min, max);
  return (
    <>
      <chakra.input
        {...word}
        type="text"
        inputMode="decimal"
        aria-label={label}
        aria-invalid={wrong !== null}
        borderColor={wrong ? 'fails' : 'accent'}
        value={text}
        onChange={(event) => change(event.target.value)}
        onKeyDown={(event) => {
          const way = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
          const next = Number((value + way * (step === 'any' ? 0.01 : step)).toFixed(6));
          if (way === 0 || problemWith(String(next), step, min, max) !== null) return;
          event.preventDefault();
          change(String(next));
        }}
      />
      {unit === '' ? null : (
        <Text as="span" fontFamily="body" fontSize="16px" fontWeight={700} color="accent">
          {' '}
          {unit}
        </Text>
      )}
      {wrong ? (
        <Text as="span" role="alert" fontFamily="body" fontSize="13px" color="fails">
          {' '}
          ({wrong})
        </Text>
      ) : null}
    </>
  );
}

function problemWith(text: string, step: number | 'any', min?: number, max?: number): string | null {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value)) return 'a number is needed';
  if (step !== 'any' && !Number.isInteger(value / step)) return 'a whole number is needed';
  if (min !== undefined && value < min) return `at least ${min}`;
  if (max !== undefined && value > max) return `at most ${max}`;
  return null;
}

/** A date and time in a sentence, in the browser's own field. */
export function PlanMoment({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <chakra.input
      {...word}
      type="datetime-local"
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

/** Words that were chosen; pressing one leaves it out. */
export function PlanChosen({
  label,
  values,
  onChange,
}: {
  label: string;
  values: readonly string[];
  onChange: (values: string[]) => void;
}) {
  return values.map((value) => (
    <chakra.button
      key={value}
      {...word}
      type="button"
      mr={1}
      cursor="pointer"
      aria-label={`${value}: leave out of ${label}`}
      onClick={() => onChange(values.filter((other) => other !== value))}
    >
      {value} <span aria-hidden>×</span>
    </chakra.button>
  ));
}

/** Several of many, as words that can be left out one by one and a menu that adds more. */
export function PlanSeveral({
  label,
  values,
  choices,
  none,
  onChange,
}: {
  label: string;
  values: readonly string[];
  choices: readonly string[];
  none: string;
  onChange: (values: string[]) => void;
}) {
  const left = choices.filter((choice) => !values.includes(choice));
  return (
    <>
      <PlanChosen label={label} values={values} onChange={onChange} />
      {left.length === 0 ? null : (
        <PlanChoice
          label={label}
          value=""
          choices={[
            { value: '', text: values.length === 0 ? none : 'and …' },
            ...left.map((value) => ({ value, text: value })),
          ]}
          onChange={(value) => value !== '' && onChange([...values, value])}
        />
      )}
    </>
  );
}
