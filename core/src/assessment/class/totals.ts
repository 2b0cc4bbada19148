import { SieveError } from '../../foundation/errors.js';
import { shortNumber } from '../../foundation/numbers.js';

/** A group of exercises that counts for a part of the total. */
export interface GradeCategory {
  readonly name: string;
  /** Of its share in the total, above 0: weights are compared with one another, and need not add up to 100. */
  readonly weight: number;
  /** So many of its lowest shares are dropped for each student; the last one never is. */
  readonly drop: number;
}

/** How the exercises of a course make a total. */
export interface GradePlan {
  /** Without any, all exercises count by their weights. */
  readonly categories: readonly GradeCategory[];
  /** By id of the exercise; one that is left out is in no category and has the weight of its marks. */
  readonly exercises: readonly {
    readonly exercise: string;
    /** Its name; empty for none. */
    readonly category: string;
    /** Within the category, above 0. */
    readonly weight: number;
  }[];
}

/** Every exercise by its marks. */
export const PLAIN_PLAN: GradePlan = { categories: [], exercises: [] };

const MOST_CATEGORIES = 20;
const LONGEST_NAME = 60;
const LARGEST_WEIGHT = 10_000;
const MOST_DROPPED = 50;

/** An exercise as a total counts it, with what a student has of it. */
export interface Graded {
  readonly id: string;
  readonly title: string;
  /** All its marks, above 0. */
  readonly outOf: number;
  /** Null where nothing counts. */
  readonly marks: number | null;
  readonly excused: boolean;
  /** One that is not returned counts in no total. */
  readonly returned: boolean;
}

/** What a student's marks come to. */
export interface GradeTotal {
  /** From 0 to 1; null where nothing counts yet. */
  readonly share: number | null;
  /** How it came about, a sentence for each step. */
  readonly steps: readonly string[];
  /** Ids of the exercises that are dropped as the lowest. */
  readonly dropped: readonly string[];
}

/** @throws SieveError `grade-plan` with the field */
export function checkGradePlan({ categories, exercises }: GradePlan): void {
  const fail = (field: string, message: string) => new SieveError('grade-plan', message, { field });
  const isWeight = (weight: number) => weight > 0 && weight <= LARGEST_WEIGHT;
  if (categories.length > MOST_CATEGORIES)
    throw fail('categories', `A course has ${MOST_CATEGORIES} categories at most.`);
  const names = new Set<string>();
  categories.forEach(({ name, weight, drop }, i) => {
    const field = `categories.${i}`;
    if (name.trim() === '' || name.length > LONGEST_NAME)
      throw fail(`${field}.name`, `Category ${i + 1} needs a name of up to ${LONGEST_NAME} characters.`);
    if (names.has(name)) throw fail(`${field}.name`, `Two categories are called “${name}”.`);
    names.add(name);
    if (!isWeight(weight))
      throw fail(
        `${field}.weight`,
        `The weight of “${name}” is a number above 0, up to ${LARGEST_WEIGHT.toLocaleString('en')}.`,
      );
    if (!Number.isInteger(drop) || drop < 0 || drop > MOST_DROPPED)
      throw fail(`${field}.drop`, `“${name}” drops a whole number of exercises, from 0 to ${MOST_DROPPED}.`);
  });
  const planned = new Set<string>();
  for (const [i, { exercise, category, weight }] of exercises.entries()) {
    if (planned.has(exercise))
      throw fail(
        `exercises.${i}.exercise`,
        'An exercise is in the plan twice. Give it one category and one weight.',
      );
    planned.add(exercise);
    if (category !== '' && !names.has(category))
      throw fail(`exercises.${i}.category`, `There is no category “${category}”.`);
    if (!isWeight(weight))
      throw fail(
        `exercises.${i}.weight`,
        `The weight of an exercise is a number above 0, up to ${LARGEST_WEIGHT.toLocaleString('en')}.`,
      );
  }
}

const percent = (share: number) => `${shortNumber(100 * share, 4)} %`;

/** Exercises of one category, or of none, with their weights. */
interface Weighed extends Graded {
  readonly weight: number;
  readonly share: number;
}

/**
 * A student's total: within each category the weighted mean of the shares of marks, and over the categories their
 * weighted mean. An exercise that is returned and was not answered counts as 0; one that is excused or not returned yet
 * does not count; a category in which nothing counts is left out. The lowest shares are dropped, whatever their weights,
 * which is what students expect of the words, though with unequal weights another choice can give more (Kane and Kane,
 * “Dropping lowest grades”, Mathematics Magazine 79, 2006; from memory).
 */
export function gradeTotal(plan: GradePlan, graded: readonly Graded[]): GradeTotal {
  const planned = new Map(plan.exercises.map((one) => [one.exercise, one]));
  const counted = graded
    .filter(({ excused, returned }) => returned && !excused)
    .map((one): Weighed => ({
      ...one,
      weight: planned.get(one.id)?.weight ?? one.outOf,
      share: (one.marks ?? 0) / one.outOf,
    }));
  const excused = graded.filter((one) => one.excused && one.returned);
  const notes = excused.length === 0 ? [] : [`Excused, and not counted: ${titlesOf(excused)}.`];
  const none: GradeCategory = { name: '', weight: 1, drop: 0 };
  const categoryOf = ({ id }: Weighed) => planned.get(id)?.category ?? '';
  const parts = (plan.categories.length === 0 ? [none] : plan.categories)
    .map((category) => ({
      category,
      inside: counted.filter((one) => plan.categories.length === 0 || categoryOf(one) === category.name),
    }))
    .filter(({ inside }) => inside.length > 0)
    .map(({ category, inside }) => ({ category, ...partOf(category, inside) }));
  const outside = plan.categories.length === 0 ? [] : counted.filter((one) => categoryOf(one) === '');
  if (outside.length > 0) notes.push(`In no category, and not counted: ${titlesOf(outside)}.`);
  if (parts.length === 0) return { share: null, steps: notes, dropped: [] };
  const weights = parts.reduce((sum, { category }) => sum + category.weight, 0);
  const share = parts.reduce((sum, part) => sum + part.category.weight * part.share, 0) / weights;
  const steps = parts.map(({ words }) => words);
  if (parts.length > 1)
    steps.push(
      `Total: (${parts.map((part) => `${part.category.weight} × ${percent(part.share)}`).join(' + ')}) / ${shortNumber(weights, 6)} = ${percent(share)}.`,
    );
  return { share, steps: [...steps, ...notes], dropped: parts.flatMap(({ dropped }) => dropped) };
}

const titlesOf = (some: readonly Graded[]) => some.map(({ title }) => title).join(', ');

/** The share of one category, what is dropped, and both in words. */
function partOf(
  { name, drop }: GradeCategory,
  inside: readonly Weighed[],
): { share: number; words: string; dropped: string[] } {
  // Of equal shares the one that comes first is dropped.
  const lowest = [...inside].sort((a, b) => a.share - b.share).slice(0, Math.min(drop, inside.length - 1));
  const kept = inside.filter((one) => !lowest.includes(one));
  const weights = kept.reduce((sum, { weight }) => sum + weight, 0);
  const share = kept.reduce((sum, one) => sum + one.weight * one.share, 0) / weights;
  const said = kept.map(
    ({ title, marks, outOf, weight }) =>
      `${title} ${marks === null ? 'not handed in, 0' : shortNumber(marks, 6)} of ${shortNumber(outOf, 6)}${weight === outOf ? '' : `, weight ${shortNumber(weight, 6)}`}`,
  );
  const left = lowest.length === 0 ? '' : ` Dropped as the lowest: ${titlesOf(lowest)}.`;
  return {
    share,
    words: `${name === '' ? 'Total' : name}: ${said.join('; ')}. Together ${percent(share)}.${left}`,
    dropped: lowest.map(({ id }) => id),
  };
}
