import { Box, Text } from '@chakra-ui/react';
import { useRouteError } from 'react-router';
import { Action } from '../kit/action.js';
import { Empty } from '../kit/states.js';

/** Shown where a page could not be drawn: a fault of ours, not of the address. */
export function Broken() {
  const error = useRouteError();
  return (
    <Box px={6}>
      <Empty title="This page could not be drawn">
        <Text>
          Nothing you handed in or kept is lost. If it happens again, tell the person who runs this server
          what you did and this: <code>{error instanceof Error ? error.message : String(error)}</code>
        </Text>
        <Box mt={4}>
          <Action onClick={() => location.reload()}>Load it again</Action>
        </Box>
      </Empty>
    </Box>
  );
}
