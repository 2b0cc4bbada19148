import { Box, Flex } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** Evidence at the left, the decision at the right; one below the other in narrow windows. */
export function TwoPane({
  left,
  right,
  stays = false,
}: {
  left: ReactNode;
  right: ReactNode;
  /** Whether the right side stays in sight while the left one scrolls. */
  stays?: boolean;
}) {
  return (
    <Flex direction={{ base: 'column', lg: 'row' }} gap={7} mt={3} align="stretch">
      <Box flex="2" minW={0}>
        {left}
      </Box>
      <Box flex="1" minW={0} borderLeft={{ lg: '1px solid' }} borderColor={{ lg: 'rule' }} pl={{ lg: 6 }}>
        {stays ? (
          <Box position={{ lg: 'sticky' }} top="0" maxH={{ lg: '100vh' }} overflowY={{ lg: 'auto' }}>
            {right}
          </Box>
        ) : (
          right
        )}
      </Box>
    </Flex>
  );
}
