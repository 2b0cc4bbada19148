import { Box, chakra, Flex, Text } from '@chakra-ui/react';
import type { ClipboardEvent } from 'react';
import { BETWEEN_VALUES, NONE } from '@modest-sieve/core/assessment';
import type { Schemas } from '../../api/client.js';

export type Fields = Readonly<Record<string, string>>;

/** Cells that were copied from a spreadsheet, one after another; a label before a number is passed over. */
export function pastedCells(text: string): string[] {
  return text
    .split(/\r?\n/)
    .filter((line) => line.trim() !== '')
    .flatMap((line) => {
      const cells = line.split('\t').map((cell) => cell.trim());
      return cells.length === 2 && /[a-z]/i.test(cells[0] ?? '') ? cells.slice(1) : cells;
    });
}

/** What is typed or chosen for a question. Several cells that are pasted fill the fields from there on. */
export function AnswerFields({
  fields,
  values,
  name,
  onChange,
}: {
  fields: readonly Schemas['Field'][];
  values: Fields;
  /** Distinguishes the fields of one question from those of others. */
  name: string;
  onChange: (values: Fields) => void;
}) {
  const typed = fields.filter(({ choices }) => choices === null);
  const paste = (event: ClipboardEvent, from: number) => {
    const cells = pastedCells(event.clipboardData.getData('text'));
    if (cells.length < 2) return;
    event.preventDefault();
    const filled = typed.slice(from).flatMap(({ key }, i) => {
      const cell = cells[i];
      return cell === undefined ? [] : [[key, cell] as const];
    });
    onChange({ ...values, ...Object.fromEntries(filled) });
  };
  return (
    <Flex gap={5} rowGap={3} wrap="wrap" mt={2}>
      {fields.map(({ key, label, choices, several }) =>
        choices === null ? (
          <chakra.label key={key} display="inline-flex" gap={2} alignItems="baseline" fontSize="14.5px">
            {label}
            <chakra.input
              w="11ch"
              bg="sheet"
              borderBottom="2px solid"
              borderColor="accent"
              px={2}
              py={1}
              fontFamily="mono"
              inputMode="decimal"
              autoComplete="off"
              maxLength={60}
              value={values[key] ?? ''}
              onPaste={(event) =>
                paste(
                  event,
                  typed.findIndex((field) => field.key === key),
                )
              }
              onChange={(event) => onChange({ ...values, [key]: event.target.value })}
            />
          </chakra.label>
        ) : (
          <Choices
            key={key}
            field={{ key, label, choices, ...(several ? { several } : {}) }}
            name={`${name} ${key}`}
            value={values[key] ?? ''}
            onChange={(value) => onChange({ ...values, [key]: value })}
          />
        ),
      )}
    </Flex>
  );
}

const valuesIn = (value: string): string[] =>
  value
    .split(BETWEEN_VALUES)
    .map((one) => one.trim())
    .filter((one) => one !== '');

/** The values of a field with one more chosen, or one less; choosing none of them undoes the others. */
function toggled(choices: readonly string[], value: string, choice: string): string {
  const chosen = new Set(valuesIn(value));
  if (chosen.has(choice)) chosen.delete(choice);
  else {
    if (choice === NONE) chosen.clear();
    else chosen.delete(NONE);
    chosen.add(choice);
  }
  return choices.filter((one) => chosen.has(one)).join(`${BETWEEN_VALUES} `);
}

/** Something to choose: all choices in sight. */
function Choices({
  field: { label, choices, several },
  name,
  value,
  onChange,
}: {
  field: Schemas['Field'];
  name: string;
  value: string;
  onChange: (value: string) => void;
}) {
  const all = choices ?? [];
  const inLine = several === true || all.every(({ text }) => text.length < 14);
  const chosen = several ? valuesIn(value) : [value];
  return (
    <Box as="fieldset" w="100%" minW={0} borderBottom="1px solid" borderColor="rule" pb={2}>
      <Box
        as="legend"
        fontSize="14.5px"
        maxW="72ch"
        float={{ base: 'none', md: inLine ? 'left' : 'none' }}
        mr={4}
      >
        {label}
      </Box>
      <Flex direction={inLine ? 'row' : 'column'} gap={inLine ? 4 : 1} wrap="wrap">
        {all.map((choice) => (
          <chakra.label
            key={choice.value}
            display="inline-flex"
            gap={2}
            fontSize="14.5px"
            alignItems="baseline"
          >
            <chakra.input
              type={several ? 'checkbox' : 'radio'}
              name={name}
              accentColor="accent"
              checked={chosen.includes(choice.value)}
              onChange={() =>
                onChange(
                  several
                    ? toggled(
                        all.map((one) => one.value),
                        value,
                        choice.value,
                      )
                    : choice.value,
                )
              }
            />
            <Text as="span">{choice.text}</Text>
          </chakra.label>
        ))}
      </Flex>
    </Box>
  );
}
