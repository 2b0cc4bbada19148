import { Text } from '@chakra-ui/react';
import { useState } from 'react';
import { Action, TextAction } from './action.js';

/** A button for what cannot be undone: pressed once it says what follows, pressed again it does it. */
export function TwiceAction({
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
  const [asked, setAsked] = useState(false);
  if (!asked) {
    return (
      <Action plain busy={busy} onClick={() => setAsked(true)}>
        {text}
      </Action>
    );
  }
  return (
    <>
      <Text fontSize="13.5px" color="quiet" role="status">
        {consequence}
      </Text>
      <Action busy={busy} onClick={onConfirm}>
        {text}: yes
      </Action>
      <TextAction onClick={() => setAsked(false)}>Leave it</TextAction>
    </>
  );
}
