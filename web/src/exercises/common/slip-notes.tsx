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
  const fields = [...new Set(slips.map(({ field }) => field))];
  const nameOf = (field: string) => sheet?.fields.find(({ key }) => key === field)?.label ?? field;
  return (
    <Box as="section" aria-label="What went wrong" mt={2} mb={3}>
      {fields.map((field) => {
        const own = slips.filter((slip) => slip.field === field);
        const fits = own.filter(({ byHand }) => byHand !== true);
        return (
          <Box key={field ?? ''} borderTop="1px solid" borderColor="rule" py={2}>
            {field === null ? null : (
              <Text fontSize="13px" color="quiet">
                {nameOf(field)}
                {fits.length > 1 && fits.length === own.length
                  ? ': one of these mistakes; each gives this figure'
                  : ''}
              </Text>
            )}
            {own.map(({ id, says, remedy, example }) => (
              <Box key={id} data-slip={id} mb={1}>
                <Text fontWeight={650}>{says}</Text>
                <Text fontSize="14px">{remedy}</Text>
                <Text fontSize="13px" color="quiet">
                  For example: {example}
                </Text>
              </Box>
            ))}
          </Box>
        );
      })}
    </Box>
  );
}
