import { Flex, Text } from '@chakra-ui/react';
import { refresh, send, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Action, TextAction } from '../kit/form/action.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { useAction } from '../kit/form/use-action.js';

/** A file on its way, one that could not be read, or one of whose tables one has to be chosen. */
export function ImportLine({ item }: { item: Schemas['ImportInfo'] }) {
  const address = useCourseApi();
  const doing = useAction();
  const { choices } = item.problem ?? {};
  const here = address('/data-sets/imports/{import}', { import: item.id });
  return (
    <Flex mt={3} gap={4} align="baseline" wrap="wrap" data-import={item.state}>
      {item.state === 'failed' ? (
        <>
          {choices ? (
            <>
              <Text role="status">{item.problem?.message}</Text>
              {choices.map((sheet) => (
                <Action
                  key={sheet}
                  plain
                  busy={doing.busy}
                  onClick={() => doing.run(() => send('post', here, { sheet }))}
                >
                  {sheet}
                </Action>
              ))}
            </>
          ) : (
            <Text role="alert" color="fails">
              <span aria-hidden>✕ </span>
              {item.problem?.message}
            </Text>
          )}
          <TextAction
            onClick={() => void send('delete', here).then(refresh)}
            label={`Dismiss the message about ${item.fileName}`}
          >
            Dismiss
          </TextAction>
          <ErrorMessage>{doing.problem?.message}</ErrorMessage>
        </>
      ) : (
        <Text role="status">Reading {item.fileName} …</Text>
      )}
    </Flex>
  );
}
