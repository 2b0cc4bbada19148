import { Box, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import type { Schemas } from '../api/client.js';
import { TextAction } from '../kit/form/action.js';
import { useAction } from '../kit/form/use-action.js';
import { ErrorMessage } from '../kit/layout/error-message.js';

/** How many checks did not finish, with what does them again; nothing where all have. */
export function UnfinishedChecks({
  submissions,
  onAgain,
}: {
  submissions: readonly Pick<Schemas['ClassView']['submissions'][number], 'outcome'>[];
  onAgain: () => Promise<unknown>;
}) {
  const unfinished = submissions.filter(({ outcome }) => outcome === 'failed').length;
  if (unfinished === 0) return null;
  return (
    <Box mt={4} aria-label="Checks that did not finish" role="group">
      <Text>
        <Text as="span" color="fails">
          {counted(unfinished, 'check')} of this exercise did not finish.
        </Text>{' '}
        The files are kept, and no attempt is used until they are checked.
      </Text>
      <CheckAgain text="check them all again" onAgain={onAgain} />
    </Box>
  );
}

/** Has answers checked again whose check did not finish. */
export function CheckAgain({ text, onAgain }: { text: string; onAgain: () => Promise<unknown> }) {
  const doing = useAction();
  return (
    <>
      <TextAction busy={doing.busy} onClick={() => doing.run(onAgain)}>
        {text}
      </TextAction>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </>
  );
}
