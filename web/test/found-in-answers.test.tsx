/** @jest-environment jsdom */
import { afterEach, expect, it } from '@jest/globals';
import { cleanup, screen, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { FoundInAnswers } from '../src/submissions/found-in-answers.js';
import { QuestionInClass } from '../src/submissions/question-in-class.js';
import { draw } from './draw.js';

afterEach(cleanup);

const students = Array.from({ length: 15 }, (_, i) => i);
const VIEW = {
  lines: students.map((i) => ({
    person: { id: `s${i}`, name: `Student ${i}` },
    ...{ answers: [], marks: null, deadline: null, section: null },
  })),
  submissions: students.map((i) => ({
    ...{ id: `a${i}`, personId: `s${i}`, question: 'q1', number: 1, receivedAt: '' },
    late: false,
    outcome: 'checked' as const,
  })),
};
const found = (answers: readonly string[]) => [{ id: 'rows-shifted', text: 'rows shifted', answers }];
const drawn = (answers: readonly string[] | null) =>
  draw(
    <MemoryRouter>
      <FoundInAnswers
        title="Known mistakes"
        what="mistake"
        found={answers ? found(answers) : []}
        view={VIEW}
        to={(id) => `/answers/${id}`}
      />
    </MemoryRouter>,
  );

it('what answers have in common is counted, and leads to them in the order of the class', () => {
  drawn(
    VIEW.submissions
      .slice(0, 14)
      .map(({ id }) => id)
      .reverse(),
  );
  const table = screen.getByRole('table', { name: 'Known mistakes' });
  expect(within(table).getByText('14')).toBeTruthy();
  expect(
    within(table)
      .getAllByRole('link')
      .map((link) => link.getAttribute('href')),
  ).toEqual(students.slice(0, 12).map((i) => `/answers/a${i}`));
  expect(within(table).getByText(/and 2 others/)).toBeTruthy();
});

it('without anything found there is no table', () => {
  drawn(null);
  expect(screen.queryByRole('table')).toBeNull();
});

it('a question is said to be as hard as it was, with its correlation where there is one', () => {
  const figures = {
    question: 'q1',
    answered: 20,
    students: 24,
    share: 0.624,
    failing: [],
    found: { slips: 5, dismissed: 0 },
  };
  draw(<QuestionInClass of={{ ...figures, discrimination: { value: 0.41, low: 0.016, high: 0.7 } }} />);
  expect(
    screen.getByText(/20 of 24 students with marks answered .* 62\.4 % of its marks/).textContent,
  ).toContain('0.410 (0.016 to 0.700, 95 %)');
  cleanup();
  draw(<QuestionInClass of={{ ...figures, discrimination: null }} />);
  expect(screen.getByText(/62\.4 %/).textContent).not.toContain('Correlation');
  cleanup();
  draw(<QuestionInClass of={{ ...figures, answered: 0, students: 0, share: null, discrimination: null }} />);
  expect(screen.queryByText(/answered/)).toBeNull();
  cleanup();
  draw(<QuestionInClass of={{ ...figures, found: { slips: 5, dismissed: 2 }, discrimination: null }} />);
  expect(screen.getByText(/Of 5 known mistakes found in its answers 2 were dismissed/)).toBeTruthy();
});
