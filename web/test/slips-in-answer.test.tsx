/** @jest-environment jsdom */
import { afterEach, beforeEach, expect, it } from '@jest/globals';
import { cleanup, screen, within } from '@testing-library/react';
import type { Schemas } from '../src/api/client.js';
import { SlipsInAnswer } from '../src/submissions/slips-in-answer.js';
import { draw } from './draw.js';

let judged: Schemas['SlipVerdictGiven'][] = [];
beforeEach(() => {
  judged = [];
});
afterEach(cleanup);

const said = { by: 'Ines', at: '2026-01-01T00:00:00.000Z' };

const drawn = (verdicts: Schemas['OpenedSubmission']['verdicts']) =>
  draw(
    <SlipsInAnswer
      submission={{
        fields: { recall: '80' },
        sheet: { fields: [{ key: 'recall', label: 'recall (sensitivity)', choices: null }] },
        verdicts,
      }}
      result={{
        kind: 'values',
        slips: [
          { id: 'percent-for-fraction', question: 'q1', field: 'recall', evidence: '80 is what it gives' },
        ],
      }}
      onJudge={(verdict) => Promise.resolve(judged.push(verdict))}
    />,
  );

it('a mistake that was found is said with what shows it, and dismissed', async () => {
  const { user } = drawn([]);
  expect(screen.getByLabelText('Slips').textContent).toMatch(
    /in recall \(sensitivity\): 80 is what it gives/,
  );
  await user.click(screen.getByRole('button', { name: /^dismiss: .*recall/ }));
  expect(judged).toEqual([{ slip: 'percent-for-fraction', field: 'recall', verdict: 'dismissed' }]);
});

it('one that was dismissed says by whom, and the word is taken back', async () => {
  const { user } = drawn([{ slip: 'percent-for-fraction', field: 'recall', verdict: 'dismissed', ...said }]);
  const list = screen.getByLabelText('Slips');
  expect(list.textContent).toContain('dismissed by Ines');
  expect(list.textContent).not.toContain('80 is what it gives');
  await user.click(within(list).getByRole('button', { name: /^take back the dismissal/ }));
  expect(judged).toEqual([{ slip: 'percent-for-fraction', field: 'recall', verdict: 'undone' }]);
});

it('one that was not found is named, of a figure or of the whole answer', async () => {
  const { user } = drawn([]);
  await user.keyboard('n');
  const choice = screen.getByRole('combobox', { name: 'mistake' });
  await user.selectOptions(choice, 'macro-micro-exchanged');
  await user.selectOptions(screen.getByRole('combobox', { name: 'figure' }), 'recall');
  await user.click(screen.getByRole('button', { name: 'Name this mistake' }));
  expect(judged).toEqual([{ slip: 'macro-micro-exchanged', field: 'recall', verdict: 'named' }]);
  cleanup();
  const named = drawn([{ slip: 'macro-micro-exchanged', field: null, verdict: 'named', ...said }]);
  expect(screen.getByLabelText('Slips').textContent).toContain('named by Ines');
  await named.user.click(screen.getByRole('button', { name: /^take back/ }));
  expect(judged.at(-1)).toEqual({ slip: 'macro-micro-exchanged', field: null, verdict: 'undone' });
});
