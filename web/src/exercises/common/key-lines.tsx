import { Box } from '@chakra-ui/react';

/** How the key of a question came about, a line each. */
export function KeyLines({ about }: { about: readonly string[] }) {
  return (
    <Box as="ul" listStyleType="none" fontSize="14px" color="quiet">
      {about.map((line) => (
        <Box as="li" key={line} mt={1} lineHeight={1.4}>
          {line}
        </Box>
      ))}
    </Box>
  );
}
