import { Text } from '@chakra-ui/react';
import { useState } from 'react';
import { Action, TextAction } from './action.js';
import { arrive } from '../layout/arrive.js';

/** A button for what cannot be undone: pressed once it says what follows, where the focus goes, pressed again it does it. */
export function ConfirmButton({
  text,
  consequence,
  busy,
  onConfirm,
}: {
  text: string;
  consequence: string;
  busy: boolean;
  onConfirm: () => void;
}) {
  const [asked, setAsked] = useState<boolean | null>(null);
  if (asked !== true) {
    return (
      <Action plain busy={busy} autoFocus={asked === false} onClick={() => setAsked(true)}>
        {text}
      </Action>
    );
  }
  return (
    <>
      <Text ref={arrive} tabIndex={-1} outline="none" fontSize="13.5px" color="quiet" role="status">
        {consequence}
      </Text>
      <Action busy={busy} onClick={onConfirm}>
        {text}: yes
      </Action>
      <TextAction onClick={() => setAsked(false)}>Leave it</TextAction>
    </>
  );
}
