import { useEffect } from 'react';

/** What was copied in a spreadsheet, as a file of tab-separated values; null for a text that is no table. */
export function pastedTable(text: string): File | null {
  const lines = text.replace(/\r\n?/g, '\n').replace(/\n+$/, '').split('\n');
  const isTable = lines.length > 1 && lines.every((line) => line.includes('\t'));
  const isColumn = lines.length > 2 && lines.every((line) => line.trim() !== '' && !line.includes(' '));
  return isTable || isColumn ? new File([`${lines.join('\n')}\n`], 'pasted table.tsv') : null;
}

/** Takes a table that is pasted anywhere on the page but into a field. */
export function usePastedTable(onTable: (file: File) => void): void {
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const { target } = event;
      if (target instanceof HTMLElement && target.closest('input, textarea, [contenteditable]')) return;
      const file = pastedTable(event.clipboardData?.getData('text/plain') ?? '');
      if (file) onTable(file);
    };
    document.addEventListener('paste', paste);
    return () => document.removeEventListener('paste', paste);
  }, [onTable]);
}
