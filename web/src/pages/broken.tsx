import { Box, Text } from '@chakra-ui/react';
import { useRouteError } from 'react-router';
import { Action } from '../kit/form/action.js';
import { Empty } from '../kit/answer/states.js';

/** Shown where a page could not be drawn: a fault of ours, not of the address. */
export function Broken() {
  const error = useRouteError();
  const message = error instanceof Error ? error.message : String(error);
  if (/dynamically imported module|module script failed/i.test(message))
    return (
      <Box px={6}>
        <Empty title="A part of the program could not be loaded">
          <Text>
            The program was updated while this page was open, or the server cannot be reached. Nothing you
            handed in or saved is lost: load the page again to go on.
          </Text>
          <LoadAgain />
        </Empty>
      </Box>
    );
  return (
    <Box px={6}>
      <Empty title="This page could not be drawn">
        <Text>
          Nothing you handed in or saved is lost. If it happens again, send the person who runs this server
          what you did and this: <code>{message}</code>
        </Text>
        <LoadAgain />
      </Empty>
    </Box>
  );
}

function LoadAgain() {
  return (
    <Box mt={4}>
      <Action onClick={() => location.reload()}>Load it again</Action>
    </Box>
  );
}
