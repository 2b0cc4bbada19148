import type { Cell } from './request.js';

const KERNELS = {
  python: { display_name: 'Python 3', language: 'python', name: 'python3' },
  r: { display_name: 'R', language: 'R', name: 'ir' },
} as const;

/** Cells as a notebook without outputs (Jupyter, nbformat 4.5). */
export function notebook(cells: readonly Cell[], language: keyof typeof KERNELS): string {
  const lines = (text: string) =>
    text.split('\n').map((line, i, all) => (i < all.length - 1 ? `${line}\n` : line));
  return `${JSON.stringify(
    {
      cells: cells.map(({ kind, text }, i) => {
        const common = { id: `cell-${i + 1}`, metadata: {}, source: lines(text) };
        return kind === 'words'
          ? { cell_type: 'markdown', ...common }
          : { cell_type: 'code', ...common, execution_count: null, outputs: [] };
      }),
      metadata: { kernelspec: KERNELS[language], language_info: { name: language === 'r' ? 'R' : 'python' } },
      nbformat: 4,
      nbformat_minor: 5,
    },
    null,
    1,
  )}\n`;
}
