import { useMemo } from 'react';
import { TextAction } from '../form/action.js';
import { usePageKeys } from '../layout/use-page-keys.js';

export interface UndoRedo {
  /** Null where there is nothing to undo. */
  readonly undo: (() => void) | null;
  /** Null where nothing was undone. */
  readonly redo: (() => void) | null;
}

/** Undoes and redoes changes, by key too. */
export function UndoRedo({ undo, redo }: UndoRedo) {
  usePageKeys(useMemo(() => ({ undo, redo }), [undo, redo]));
  return (
    <>
      {undo ? <TextAction onClick={undo}>Undo</TextAction> : null}
      {redo ? <TextAction onClick={redo}>Redo</TextAction> : null}
    </>
  );
}
