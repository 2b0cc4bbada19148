import { describe, expect, it } from '@jest/globals';
import { draftOf, planOf, withCategory, withExercise, withNewCategory } from './draft-plan.js';

const exercise = (id: string, marks: number) => ({
  ...{ id, marks, title: id, state: 'returned' as const, opensAt: '', deadline: '' },
  ...{ marked: 0, mean: null, median: null },
});
const book = {
  plan: {
    categories: [
      { name: 'Sheets', weight: 60, drop: 1 },
      { name: 'Project', weight: 40, drop: 0 },
    ],
    exercises: [
      { exercise: 'a', category: 'Sheets', weight: 10 },
      { exercise: 'b', category: 'Project', weight: 3 },
    ],
  },
  exercises: [exercise('a', 10), exercise('b', 20), exercise('c', 30)],
};
const categoriesOf = (plan: ReturnType<typeof planOf>) =>
  plan.exercises.map(({ exercise: id, category }) => `${id} ${category}`);

describe('a plan of grades that is changed', () => {
  it('has every exercise, and is the same when nothing is changed', () => {
    const plan = planOf(draftOf(book));
    expect(plan.exercises).toEqual([...book.plan.exercises, { exercise: 'c', category: '', weight: 30 }]);
    expect(planOf(draftOf({ ...book, plan }))).toEqual(plan);
  });

  it('keeps exercises in their category while its name is typed, also where it is that of another for a moment', () => {
    const [sheets = { name: '', weight: 1, drop: 0 }] = book.plan.categories;
    let draft = draftOf(book);
    for (const name of ['Projec', 'Project', 'Projects']) draft = withCategory(draft, 0, { ...sheets, name });
    expect(categoriesOf(planOf(draft))).toEqual(['a Projects', 'b Project', 'c ']);
  });

  it('leaves exercises of a category that is removed in none, and the others in theirs', () => {
    const draft = withCategory(draftOf(book), 0, null);
    expect(categoriesOf(planOf(draft))).toEqual(['a ', 'b Project', 'c ']);
  });

  it('begins with one category of all exercises, and names each further one otherwise', () => {
    const empty = draftOf({ ...book, plan: { categories: [], exercises: [] } });
    const first = withNewCategory(empty);
    expect(categoriesOf(planOf(first))).toEqual(['a Exercises', 'b Exercises', 'c Exercises']);
    const third = withNewCategory(withNewCategory(first));
    const without = withCategory(third, 1, null);
    const names = withNewCategory(without).categories.map(({ name }) => name);
    expect(new Set(names).size).toBe(names.length);
  });

  it('moves and weighs one exercise', () => {
    const draft = withExercise(draftOf(book), 'c', { place: 1, weight: 2 });
    expect(planOf(draft).exercises[2]).toEqual({ exercise: 'c', category: 'Project', weight: 2 });
  });
});
