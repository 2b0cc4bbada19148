import { Box, Heading, Text } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import type { SWRResponse } from 'swr';
import { refresh, type ApiProblem } from '../../api/client.js';
import { Action } from '../form/action.js';

/** What a place is and what to do first, where there is nothing to show yet. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box py={10} maxW="62ch">
      <Heading as="h2" size="lg" fontFamily="heading">
        {title}
      </Heading>
      <Box mt={2} color="quiet" css={{ '& a': { textDecoration: 'underline' } }}>
        {children}
      </Box>
    </Box>
  );
}

export function Loading({ what }: { what: string }) {
  return (
    <Text py={8} color="quiet" role="status">
      Fetching {what} …
    </Text>
  );
}

/** What went wrong and the way out. */
function Failed({ problem }: { problem: ApiProblem }) {
  return (
    <Box py={8} maxW="62ch" role="alert">
      <Heading as="h2" size="lg" fontFamily="heading">
        {problem.status === 404 ? 'There is nothing here for you' : 'This could not be loaded'}
      </Heading>
      <Text mt={2} mb={4} color="quiet">
        {problem.status === 404
          ? 'The address may be mistyped, or what it named is not yours to see.'
          : problem.message}
      </Text>
      {problem.status === 404 ? (
        <a href="/">To your courses</a>
      ) : (
        <Action onClick={() => void refresh()}>Try again</Action>
      )}
    </Box>
  );
}

/** An answer of the API in its three states: on its way, failed, here. */
export function Answer<T>({
  of,
  what,
  children,
}: {
  of: SWRResponse<T, ApiProblem>;
  what: string;
  children: (data: T) => ReactNode;
}) {
  if (of.data !== undefined) return <>{children(of.data)}</>;
  if (of.error) return <Failed problem={of.error} />;
  return <Loading what={what} />;
}
