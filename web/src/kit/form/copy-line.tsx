import { Box, Flex } from '@chakra-ui/react';
import { useState } from 'react';
import { TextAction } from './action.js';

/** A line to be taken elsewhere, with the button that copies it. */
export function CopyLine({
  text,
  label,
  arrives = false,
}: {
  text: string;
  label: string;
  /** Whether its button takes the focus when it appears: for what was just made. */
  arrives?: boolean;
}) {
  const [copied, setCopied] = useState(false);
  return (
    <Flex
      bg="sheet"
      border="1px solid"
      borderColor="rule"
      borderRadius="4px"
      px={3}
      py={2}
      gap={4}
      align="start"
    >
      <Box
        as="code"
        flex="1"
        minW={0}
        fontFamily="mono"
        fontSize="13px"
        overflowWrap="anywhere"
        data-line={label}
      >
        {text}
      </Box>
      <Box fontSize="13.5px" flexShrink={0} aria-live="polite">
        <TextAction
          label={`Copy: ${label}`}
          autoFocus={arrives}
          onClick={() => void navigator.clipboard.writeText(text).then(() => setCopied(true))}
        >
          {copied ? 'Copied' : 'Copy'}
        </TextAction>
      </Box>
    </Flex>
  );
}
