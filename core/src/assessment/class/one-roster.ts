import { strToU8, zipSync } from 'fflate';
import { writeSpreadsheetCsv } from '../../data/formats/csv/write.js';
import type { GradePlan } from './totals.js';

// OneRoster 1.2, CSV binding, gradebook part (1EdTech; columns and words from memory, not looked up).

/** Marks of a course, as an exchange of grades takes them. Identifiers are those of this program. */
export interface RosterGrades {
  readonly course: string;
  readonly plan: GradePlan;
  readonly exercises: readonly {
    readonly id: string;
    readonly title: string;
    readonly outOf: number;
    /** Time at which it can first be answered, and its deadline, as ISO 8601. */
    readonly opensAt: string;
    readonly deadline: string;
    readonly returned: boolean;
  }[];
  readonly students: readonly {
    readonly id: string;
    /** In the order of the exercises. */
    readonly cells: readonly {
      readonly marks: number | null;
      readonly late: boolean;
      readonly excused: boolean;
    }[];
  }[];
  /** Day of the export, as ISO 8601. */
  readonly day: string;
}

type Cell = string | number | null;

/** Every file of the binding; those of the gradebook are whole, the others are not in the archive. */
const FILES = [
  'academicSessions', 'categories', 'classes', 'classResources', 'courses', 'courseResources', 'demographics',
  'enrollments', 'lineItemLearningObjectiveIds', 'lineItems', 'lineItemScoreScales', 'orgs', 'resources',
  'resultLearningObjectiveIds', 'results', 'resultScoreScales', 'roles', 'scoreScales', 'userProfiles', 'userResources',
  'users',
] as const; // prettier-ignore
const WHOLE: readonly string[] = ['categories', 'lineItems', 'results'];

/** The category of exercises that are in none, since every line item has one. */
const NO_CATEGORY = 'exercises';
const day = (moment: string) => moment.slice(0, 10);
/** In a whole file status and time of the last change are left empty. */
const WHOLE_FILE: readonly Cell[] = ['', ''];

/** The files of a OneRoster archive by name. */
export function oneRosterFiles({
  course,
  plan,
  exercises,
  students,
  day: today,
}: RosterGrades): Record<string, string> {
  const categoryId = (name: string) => {
    const place = plan.categories.findIndex((category) => category.name === name);
    return place < 0 ? `${course}-${NO_CATEGORY}` : `${course}-category-${place + 1}`;
  };
  const planned = new Map(plan.exercises.map(({ exercise, category }) => [exercise, category]));
  const categories = [
    ...plan.categories.map(({ name, weight }) => [categoryId(name), ...WHOLE_FILE, name, weight]),
    [categoryId(''), ...WHOLE_FILE, 'Exercises', plan.categories.length === 0 ? 100 : 0],
  ];
  const lineItems = exercises.map(({ id, title, outOf, opensAt, deadline }) => [
    id,
    ...WHOLE_FILE,
    title,
    '',
    day(opensAt),
    day(deadline),
    course,
    categoryId(planned.get(id) ?? ''),
    course,
    0,
    outOf,
    '',
  ]);
  const results = students.flatMap(({ id: student, cells }) =>
    exercises.map(({ id, returned }, i): Cell[] => {
      const { marks = null, late = false, excused = false } = cells[i] ?? {};
      const status = excused
        ? 'exempt'
        : marks === null
          ? 'not submitted'
          : returned
            ? 'fully graded'
            : 'partially graded';
      const flags = ['false', 'false', String(late), String(marks === null && returned && !excused)];
      return [
        `${id}-${student}`,
        ...WHOLE_FILE,
        id,
        student,
        status,
        marks ?? '',
        today,
        '',
        '',
        course,
        ...flags,
      ];
    }),
  );
  return {
    'manifest.csv': writeSpreadsheetCsv(
      ['propertyName', 'value'],
      [
        ['manifest.version', '1.0'],
        ['oneroster.version', '1.2'],
        ...FILES.map((name) => [`file.${name}`, WHOLE.includes(name) ? 'bulk' : 'absent']),
        ['source.systemName', 'Modest Sieve'],
        ['source.systemCode', 'modest-sieve'],
      ],
    ),
    'categories.csv': writeSpreadsheetCsv(
      ['sourcedId', 'status', 'dateLastModified', 'title', 'weight'],
      categories,
    ),
    'lineItems.csv': writeSpreadsheetCsv(
      [
        'sourcedId', 'status', 'dateLastModified', 'title', 'description', 'assignDate', 'dueDate', 'classSourcedId',
        'categorySourcedId', 'gradingPeriodSourcedId', 'resultValueMin', 'resultValueMax', 'schoolSourcedId',
      ], // prettier-ignore
      lineItems,
    ),
    'results.csv': writeSpreadsheetCsv(
      [
        'sourcedId', 'status', 'dateLastModified', 'lineItemSourcedId', 'studentSourcedId', 'scoreStatus', 'score',
        'scoreDate', 'comment', 'textScore', 'classSourcedId', 'inProgress', 'incomplete', 'late', 'missing',
      ], // prettier-ignore
      results,
    ),
  };
}

/** The archive, the same for the same marks. */
export const oneRosterZip = (grades: RosterGrades): Uint8Array =>
  zipSync(
    Object.fromEntries(
      Object.entries(oneRosterFiles(grades)).map(([name, text]) => [
        name,
        [strToU8(text), { mtime: new Date(1980, 0, 1) }],
      ]),
    ),
  );
