import { Box, Flex, Text } from '@chakra-ui/react';
import type { Check, Outcome } from '@modest-sieve/core/foundation';

/** Each outcome has its own mark, word and colour, so that none of them is needed alone. */
const MARKS: Record<Outcome, { mark: string; word: string; colour: string }> = {
  holds: { mark: '✓', word: 'holds', colour: 'holds' },
  fails: { mark: '✕', word: 'does not hold', colour: 'fails' },
  unsure: { mark: '≈', word: 'to be judged', colour: 'unsure' },
};

export function CheckList({ checks, label }: { checks: readonly Check[]; label: string }) {
  return (
    <Box as="ul" aria-label={label} listStyleType="none">
      {checks.map((check, i) => (
        <CheckLine key={`${check.id} ${i}`} check={check} />
      ))}
    </Box>
  );
}

/** Whether a check holds, as a mark to see and a word to hear. */
export function OutcomeMark({ outcome }: { outcome: Outcome }) {
  const { mark, word, colour } = MARKS[outcome];
  return (
    <Text as="span" color={colour} fontWeight={700}>
      <span aria-hidden>{mark}</span>
      <Box as="span" srOnly>
        {word}:
      </Box>
    </Text>
  );
}

function CheckLine({ check }: { check: Check }) {
  const detail = [
    check.measured,
    check.outcome === 'holds' || !check.expected ? null : `expected ${check.expected}`,
  ]
    .filter((part) => part !== null)
    .join('; ');
  return (
    <Flex
      as="li"
      gap={3}
      py={2}
      borderBottom="1px solid"
      borderColor="rule"
      data-check={check.id}
      data-outcome={check.outcome}
    >
      <Text as="span" w="14px" flexShrink={0}>
        <OutcomeMark outcome={check.outcome} />
      </Text>
      <Box minW={0} overflowWrap="anywhere">
        <Text fontSize="14px">{check.message}</Text>
        {detail === '' ? null : (
          <Text fontSize="13px" color="quiet">
            {detail}
          </Text>
        )}
        {check.examples.map((example) => (
          <Text key={example.text} fontSize="13px" color="quiet" fontFamily="mono">
            {example.text}
          </Text>
        ))}
      </Box>
    </Flex>
  );
}

/** "3 of 4": checks that hold. */
export const holdCount = (hold: number, of: number): string => `${hold} of ${of}`;
export const holdText = (checks: readonly Check[]): string =>
  holdCount(checks.filter((check) => check.outcome === 'holds').length, checks.length);
