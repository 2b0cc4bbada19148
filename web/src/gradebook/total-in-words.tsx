import { Box, Text } from '@chakra-ui/react';
import type { Schemas } from '../api/client.js';
import { Subtitle } from '../kit/layout/title.js';
import { percent } from '../kit/table/format.js';

/** How a total came about, in the same words for staff and student. */
export function TotalInWords({ total }: { total: Schemas['OwnGrades']['total'] }) {
  return (
    <>
      <Subtitle>
        {total.share === null ? 'Nothing is counted yet' : `${percent(total.share)} in all`}
      </Subtitle>
      <Box aria-label="How the total came about" role="group">
        {total.steps.map((step) => (
          <Text key={step} fontSize="14px" maxW="72ch" mt={1}>
            {step}
          </Text>
        ))}
      </Box>
    </>
  );
}
