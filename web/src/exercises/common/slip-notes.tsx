import { Box, Text } from '@chakra-ui/react';
import type { DisclosedSlip } from '@modest-sieve/core/assessment';
import type { Schemas } from '../../api/client.js';

/** Known mistakes behind what is wrong: what happened, what to do, and an example on other numbers. */
export function SlipNotes({
  slips,
  sheet,
}: {
  slips: readonly DisclosedSlip[];
  /** The question; null for one that is not there any more. */
  sheet: Pick<Schemas['QuestionSheet'], 'fields'> | null;
}) {
  const nameOf = (field: string) => sheet?.fields.find(({ key }) => key === field)?.label ?? field;
  return (
    <Box as="ul" listStyleType="none" aria-label="What went wrong" mt={2} mb={3}>
      {slips.map(({ id, field, says, remedy, example }) => (
        <Box
          as="li"
          key={`${id} ${field ?? ''}`}
          data-slip={id}
          borderTop="1px solid"
          borderColor="rule"
          py={2}
        >
          <Text fontWeight={650}>
            {field === null ? '' : `${nameOf(field)}: `}
            {says}
          </Text>
          <Text fontSize="14px">{remedy}</Text>
          <Text fontSize="13px" color="quiet">
            For example: {example}
          </Text>
        </Box>
      ))}
    </Box>
  );
}
