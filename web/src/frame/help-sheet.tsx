import { Suspense, useMemo, useState } from 'react';
import { TextAction } from '../kit/form/action.js';
import { usePageKeys } from '../kit/layout/use-page-keys.js';
import type { helpOf } from './page-help.js';
import { lazily } from '../kit/lazily.js';

/** Fetched when the help is first opened. */
const HelpDialog = lazily(() => import('./help-dialog.js'), 'HelpDialog');

/** The help of the page; opens with the key ? too. */
export function HelpSheet({ role }: { role: Parameters<typeof helpOf>[1] }) {
  const [isOpen, setOpen] = useState(false);
  const [wasOpened, setOpened] = useState(false);
  const change = (next: boolean) => {
    setOpen(next);
    setOpened(true);
  };
  usePageKeys(useMemo(() => ({ '?': () => change(true) }), []));
  return (
    <>
      <TextAction onClick={() => change(true)}>Help</TextAction>
      {wasOpened ? (
        <Suspense>
          <HelpDialog role={role} isOpen={isOpen} onChange={change} />
        </Suspense>
      ) : null}
    </>
  );
}
