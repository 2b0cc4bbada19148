/** @jest-environment jsdom */
import { afterEach, expect, it } from '@jest/globals';
import { cleanup, screen } from '@testing-library/react';
import { SlipNotes } from '../src/exercises/common/slip-notes.js';
import { draw } from './draw.js';

afterEach(cleanup);

const slip = (id: string, field: string | null) => ({
  ...{ id, field, says: `What ${id} is.`, remedy: `Correct ${id}.`, example: `an example of ${id}` },
});
const sheet = {
  fields: [{ key: 'recall', label: 'recall (sensitivity)', choices: null }],
};

it('a slip is said with its remedy and example, below the figure in which it was made', () => {
  draw(<SlipNotes slips={[slip('one', 'recall'), slip('whole', null)]} sheet={sheet} />);
  const text = screen.getByLabelText('What went wrong').textContent;
  expect(text).toMatch(/recall \(sensitivity\)What one is\.Correct one\.For example: an example of one/);
  expect(text).toContain('What whole is.');
  expect(text).not.toContain('one of these mistakes');
});

it('slips that give the same figure are said to be one of several', () => {
  draw(<SlipNotes slips={[slip('one', 'recall'), slip('other', 'recall')]} sheet={null} />);
  expect(screen.getByText(/recall: one of these mistakes; each gives this figure/)).toBeTruthy();
});

it('of a slip that staff named nothing says that it gives the figure', () => {
  draw(
    <SlipNotes slips={[slip('one', 'recall'), { ...slip('other', 'recall'), byHand: true }]} sheet={null} />,
  );
  expect(screen.queryByText(/one of these mistakes/)).toBeNull();
});
