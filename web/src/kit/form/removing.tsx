import { Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import type { Address, PathOf } from '../../api/address.js';
import { send, type Schemas } from '../../api/client.js';
import { TextAction } from './action.js';
import { arrive } from '../layout/arrive.js';
import { ErrorMessage } from '../layout/error-message.js';
import { useAction } from './use-action.js';

type Removal = Schemas['RemovalInfo'];

/** What goes with a thing, beside itself. */
function goesWith({ versions, splits, folds, runs }: Removal, own: keyof Removal): string {
  const others = [
    { what: 'versions', text: counted(versions - (own === 'versions' ? 1 : 0), 'version') },
    { what: 'splits', text: counted(splits - (own === 'splits' ? 1 : 0), 'split') },
    { what: 'folds', text: counted(folds - (own === 'folds' ? 1 : 0), 'set of folds', 'sets of folds') },
    { what: 'runs', text: counted(runs, 'run') },
  ].filter(({ text }) => !text.startsWith('0 '));
  return others.map(({ text }) => text).join(', ');
}

/** Deletes what nothing uses: pressed once it says what goes with it, or what uses it; pressed again it does it. */
export function Removing<P extends PathOf<'delete'>>({
  what,
  name,
  own,
  removal,
  url,
  text = 'Delete',
  onDone,
}: {
  /** The thing as a sentence names it: "the split". */
  what: string;
  /** What distinguishes it from its neighbours, for a screen reader. */
  name: string;
  own: 'versions' | 'splits' | 'folds' | 'dataSet';
  removal: Removal;
  url: Address<P>;
  text?: string;
  onDone?: () => void;
}) {
  const [asked, setAsked] = useState(false);
  const [isBack, setBack] = useState(false);
  const doing = useAction();
  if (!asked)
    return (
      <TextAction label={`${text} ${name}`} autoFocus={isBack} onClick={() => setAsked(true)}>
        {text}
      </TextAction>
    );
  const { usedBy, isLast } = removal;
  const with_ = goesWith(removal, own === 'dataSet' ? 'usedBy' : own);
  const isNeeded = usedBy.length > 0 || isLast;
  return (
    <Text as="span" ref={arrive} tabIndex={-1} role="status" whiteSpace="normal" outline="none">
      {usedBy.length > 0
        ? `${capital(what)} stays: it is used by ${shortList(usedBy)}. `
        : isLast
          ? `${capital(what)} stays: no other version would be left. `
          : `Deletes ${what} for good${with_ === '' ? '' : `, and with it ${with_}`}. `}
      {isNeeded ? null : (
        <>
          <TextAction
            onClick={() =>
              doing.run(async () => {
                await send('delete', url);
                // The button is gone with what it deleted.
                document.getElementById('page')?.focus();
                onDone?.();
              })
            }
          >
            {text}: yes
          </TextAction>{' '}
        </>
      )}
      <TextAction
        onClick={() => {
          setAsked(false);
          setBack(true);
        }}
      >
        Leave it
      </TextAction>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Text>
  );
}

/** The first two of a list, and how many more there are. */
const shortList = (items: readonly string[]): string =>
  items.length <= 2 ? items.join(' and ') : `${items.slice(0, 2).join(', ')} and ${items.length - 2} more`;

const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);
