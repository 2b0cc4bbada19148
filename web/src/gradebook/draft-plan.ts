import type { Schemas } from '../api/client.js';

type Plan = Schemas['Gradebook']['plan'];
export type Category = Plan['categories'][number];

/** How exercises make a total, while it is changed: exercises know their category by its place, whatever it is called. */
export interface DraftPlan {
  readonly categories: readonly Category[];
  readonly exercises: readonly {
    readonly exercise: string;
    /** Null for no category. */
    readonly place: number | null;
    readonly weight: number;
  }[];
}

/** A plan with every exercise of a gradebook in it. */
export function draftOf({ plan, exercises }: Pick<Schemas['Gradebook'], 'plan' | 'exercises'>): DraftPlan {
  const planned = new Map(plan.exercises.map((one) => [one.exercise, one]));
  return {
    categories: plan.categories,
    exercises: exercises.map(({ id, marks }) => {
      const place = plan.categories.findIndex(({ name }) => name === planned.get(id)?.category);
      return { exercise: id, place: place < 0 ? null : place, weight: planned.get(id)?.weight ?? marks };
    }),
  };
}

export const planOf = ({ categories, exercises }: DraftPlan): Plan => ({
  categories,
  exercises: exercises.map(({ exercise, place, weight }) => ({
    ...{ exercise, weight },
    category: place === null ? '' : (categories[place]?.name ?? ''),
  })),
});

/** With a category changed, or removed where nothing takes its place: its exercises are then in none. */
export function withCategory(draft: DraftPlan, place: number, next: Category | null): DraftPlan {
  if (next) return { ...draft, categories: draft.categories.map((one, i) => (i === place ? next : one)) };
  const moved = (own: number | null) => (own === null || own < place ? own : own === place ? null : own - 1);
  return {
    categories: draft.categories.filter((_, i) => i !== place),
    exercises: draft.exercises.map((one) => ({ ...one, place: moved(one.place) })),
  };
}

/** With one category more; the first has all exercises. */
export function withNewCategory({ categories, exercises }: DraftPlan): DraftPlan {
  const names = new Set(categories.map(({ name }) => name));
  let number = categories.length + 1;
  while (names.has(`Category ${number}`)) number++;
  const name = categories.length === 0 ? 'Exercises' : `Category ${number}`;
  return {
    categories: [...categories, { name, weight: 100, drop: 0 }],
    exercises: categories.length === 0 ? exercises.map((one) => ({ ...one, place: 0 })) : exercises,
  };
}

/** With another category or weight of an exercise. */
export const withExercise = (
  draft: DraftPlan,
  exercise: string,
  next: Partial<DraftPlan['exercises'][number]>,
): DraftPlan => ({
  ...draft,
  exercises: draft.exercises.map((one) => (one.exercise === exercise ? { ...one, ...next } : one)),
});
