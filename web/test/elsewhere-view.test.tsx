/** @jest-environment jsdom */
import { afterEach, expect, it } from '@jest/globals';
import { cleanup, screen } from '@testing-library/react';
import { ElsewhereView } from '../src/desks/try/compare/elsewhere-view.js';
import type { ComparedRun } from '../src/desks/try/compare/what-differs.js';
import { draw } from './draw.js';

afterEach(cleanup);

const run = (version: number, mean: number): ComparedRun => ({
  ...{ foldSetId: String(version), version },
  plan: { features: ['sun'], weight: null },
  result: {
    rows: 30 * version,
    chosen: { metrics: { rmse: { mean, se: 0.25, folds: [1, 2, 3], train: null, gap: null, reason: null } } },
  },
});

it('two runs over other rows: what differs, their figures, and no test of them', () => {
  draw(<ElsewhereView trial={run(2, 4)} other={run(1, 5)} foldSets={[]} />);
  expect(screen.getByLabelText('What differs').textContent).toContain('version 2, the other 1');
  const cells = [...document.querySelectorAll('tbody td')].map((cell) => cell.textContent);
  expect(cells).toEqual(['root mean squared error', '4.000 ± 0.250', '5.000 ± 0.250']);
  expect(document.body.textContent).toContain('nothing is tested');
  expect(document.body.textContent).not.toContain('p 0');
});
