import { Flex, Text } from '@chakra-ui/react';
import { refresh, send, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Action, TextAction } from '../kit/action.js';
import { Complaint } from '../kit/states.js';
import { useDoing } from '../kit/use-doing.js';

/** A file on its way, one that could not be read, or one of whose tables one has to be chosen. */
export function ImportLine({ item }: { item: Schemas['ImportInfo'] }) {
  const address = useCourseApi();
  const doing = useDoing();
  const { choices } = item.problem ?? {};
  const here = address('data-sets', 'imports', item.id);
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
                  onClick={() => doing.run(() => send('POST', here, { sheet }))}
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
            onClick={() => void send('DELETE', here).then(refresh)}
            label={`Put aside the message about ${item.fileName}`}
          >
            Put aside
          </TextAction>
          <Complaint>{doing.problem?.message}</Complaint>
        </>
      ) : (
        <Text role="status">Reading {item.fileName} …</Text>
      )}
    </Flex>
  );
}
