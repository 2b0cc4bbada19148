import { useEffect } from 'react';

/** Whether a key press changes something where it lands; a menu takes letters, but knows no undo. */
const isTyping = ({ target }: KeyboardEvent, isUndo: boolean): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', ...(isUndo ? [] : ['SELECT'])].includes(target.tagName));

/**
 * Keys that do something wherever the focus is, except where text is typed.
 *
 * @param keys what each does; undo and redo as `undo` and `redo`, for Ctrl or ⌘ with Z, and with Shift beside
 */
export function usePageKeys(keys: Readonly<Record<string, (() => void) | null>>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const isUndo = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z';
      if (event.altKey || isTyping(event, isUndo)) return;
      if ((event.ctrlKey || event.metaKey) && !isUndo) return;
      const does = keys[isUndo ? (event.shiftKey ? 'redo' : 'undo') : event.key];
      if (!does) return;
      event.preventDefault();
      does();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [keys]);
}
