import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { checkGradePlan, gradeTotal, PLAIN_PLAN, type GradeCategory, type Graded } from './totals.js';

interface Case {
  readonly categories: GradeCategory[];
  readonly exercises: (Omit<Graded, 'title'> & { readonly category: string; readonly weight: number })[];
  readonly total: number | null;
}

const { cases } = JSON.parse(readFileSync('core/test/reference/totals.json', 'utf8')) as { cases: Case[] };

const graded = (id: string, marks: number | null, over: Partial<Graded> = {}): Graded => ({
  ...{ id, title: id.toUpperCase(), outOf: 10, marks, excused: false, returned: true },
  ...over,
});

describe('a total', () => {
  // numpy.average of numpy 1.24 (totals.py).
  it.each(cases)('is the weighted mean that numpy gives (%#)', ({ categories, exercises, total }) => {
    const plan = {
      categories,
      exercises: exercises.map(({ id, category, weight }) => ({ exercise: id, category, weight })),
    };
    checkGradePlan(plan);
    const found = gradeTotal(
      plan,
      exercises.map((one) => ({ ...one, title: one.id })),
    );
    if (total === null) expect(found.share).toBeNull();
    else expect(found.share).toBeCloseTo(total, 12);
  });

  it('counts marks by marks without a plan, and says how', () => {
    const found = gradeTotal(PLAIN_PLAN, [graded('a', 8), graded('b', null, { outOf: 30 })]);
    expect(found).toEqual({
      share: 0.2,
      steps: ['Total: A 8 of 10; B not handed in, 0 of 30. Together 20 %.'],
      dropped: [],
    });
  });

  it('drops the lowest of a category, but never its last, and counts nothing that is excused or open', () => {
    const plan = {
      categories: [
        { name: 'Sheets', weight: 60, drop: 1 },
        { name: 'Project', weight: 40, drop: 3 },
      ],
      exercises: [
        { exercise: 'a', category: 'Sheets', weight: 10 },
        { exercise: 'b', category: 'Sheets', weight: 10 },
        { exercise: 'c', category: 'Project', weight: 10 },
        { exercise: 'd', category: 'Sheets', weight: 10 },
        { exercise: 'e', category: 'Sheets', weight: 10 },
        { exercise: 'f', category: '', weight: 10 },
      ],
    };
    const found = gradeTotal(plan, [
      graded('a', 5),
      graded('b', 9),
      graded('c', 7),
      graded('d', 1, { excused: true }),
      graded('e', 1, { returned: false }),
      graded('f', 1),
    ]);
    expect(found.share).toBeCloseTo((60 * 0.9 + 40 * 0.7) / 100, 12);
    expect(found.dropped).toEqual(['a']);
    expect(found.steps).toEqual([
      'Sheets: B 9 of 10. Together 90 %. Dropped as the lowest: A.',
      'Project: C 7 of 10. Together 70 %.',
      'Total: (60 × 90 % + 40 × 70 %) / 100 = 82 %.',
      'Excused, and not counted: D.',
      'In no category, and not counted: F.',
    ]);
  });

  it('says nothing of an exercise that is open, from which somebody is excused', () => {
    const open = graded('a', null, { excused: true, returned: false });
    expect(gradeTotal(PLAIN_PLAN, [open])).toEqual({ share: null, steps: [], dropped: [] });
  });

  it('is none before anything is returned', () => {
    expect(gradeTotal(PLAIN_PLAN, [graded('a', 5, { returned: false })]).share).toBeNull();
  });
});

describe('a plan of grades', () => {
  const category = { name: 'Sheets', weight: 1, drop: 0 };
  it.each([
    [[{ ...category, name: ' ' }], 'categories.0.name'],
    [[category, category], 'categories.1.name'],
    [[{ ...category, weight: 0 }], 'categories.0.weight'],
    [[{ ...category, weight: NaN }], 'categories.0.weight'],
    [[{ ...category, drop: 0.5 }], 'categories.0.drop'],
    [[{ ...category, drop: -1 }], 'categories.0.drop'],
  ])('with %j is refused at %s', (categories, field) => {
    expect(() => checkGradePlan({ categories, exercises: [] })).toThrow(
      expect.objectContaining({ place: { field } }),
    );
  });

  it('is refused for an exercise in a category that there is not, or without a weight', () => {
    const of = (exercise: { category: string; weight: number }) => () =>
      checkGradePlan({ categories: [category], exercises: [{ exercise: 'a', ...exercise }] });
    expect(of({ category: 'Sheet', weight: 1 })).toThrow(/no category “Sheet”/);
    expect(of({ category: 'Sheets', weight: -2 })).toThrow(/above 0/);
    expect(of({ category: '', weight: 2 })).not.toThrow();
    const twice = { exercise: 'a', category: 'Sheets', weight: 1 };
    expect(() => checkGradePlan({ categories: [category], exercises: [twice, twice] })).toThrow(
      expect.objectContaining({ place: { field: 'exercises.1.exercise' } }),
    );
  });
});
