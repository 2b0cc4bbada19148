import type { Someone } from './someone.js';

/** Colonies that are lost where they are light, with noise in one of four that nothing explains. */
export const COLONIES = `colony,weight,mites,forage,lost\n${Array.from({ length: 900 }, (_, i) => {
  const weight = (i * 37) % 101;
  const noisy = (i * 53 + (i % 11)) % 4 < 1;
  return `c${i},${weight},${(i * 29) % 83},${['heather', 'lime', 'rape'][i % 3]},${weight < 40 !== noisy ? 'yes' : 'no'}`;
}).join('\n')}\n`;

/** The table of runs at Try, as somebody sees it: the family and the cells of each. */
export const runsOf = (someone: Someone) =>
  someone.page.$$eval('[data-run]', (rows) =>
    rows.map((row) => ({
      kind: row.getAttribute('data-run'),
      cells: Array.from(row.querySelectorAll('td'), (cell) => cell.innerText.trim()),
    })),
  );
