import { chakra, Flex } from '@chakra-ui/react';
import { useState } from 'react';
import type { Address, InCourse, OfCourse } from '../../api/address.js';
import { send } from '../../api/client.js';
import { Action, TextAction } from './action.js';
import { ErrorMessage } from '../layout/error-message.js';
import { useAction } from './use-action.js';

/** What has a name of its own. */
type Named = OfCourse<
  Extract<
    InCourse,
    | '/data-sets/{dataSet}'
    | '/data-sets/{dataSet}/splits/{split}'
    | '/data-sets/{dataSet}/fold-sets/{foldSet}'
    | '/data-sets/{dataSet}/trials/{trial}'
  >
>;

/** A name that is changed in place. */
export function Renaming({
  name,
  what,
  url,
}: {
  /** Empty for what has none yet. */
  name: string;
  /** What is named, for a screen reader: "split saved 3 March". */
  what: string;
  url: Address<Named>;
}) {
  const [text, setText] = useState<string | null>(null);
  const [isBack, setBack] = useState(false);
  const doing = useAction();
  const close = () => {
    setText(null);
    setBack(true);
  };
  const verb = name === '' ? 'Name' : 'Rename';
  if (text === null)
    return (
      <TextAction label={`${verb} ${what}`} autoFocus={isBack} onClick={() => setText(name)}>
        {verb}
      </TextAction>
    );
  return (
    <chakra.form
      display="inline-block"
      onSubmit={(event) => {
        event.preventDefault();
        doing.run(async () => {
          await send('patch', url, { name: text });
          close();
        });
      }}
    >
      <Flex gap={3} align="center" wrap="wrap">
        <chakra.input
          aria-label={`Name of ${what}`}
          autoFocus
          value={text}
          maxLength={200}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => event.key === 'Escape' && close()}
          bg="sheet"
          color="ink"
          border="1px solid"
          borderColor="quiet"
          borderRadius="4px"
          px={2}
          py="3px"
          w="260px"
          maxW="100%"
        />
        <Action type="submit" plain busy={doing.busy}>
          Save the name
        </Action>
        <TextAction onClick={close}>Leave it</TextAction>
      </Flex>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </chakra.form>
  );
}
