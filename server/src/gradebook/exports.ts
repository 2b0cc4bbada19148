import { oneRosterZip } from '@modest-sieve/core/assessment';
import { writeSpreadsheetCsv } from '@modest-sieve/core/data';
import writeXlsxFile, { type SheetData } from 'write-excel-file/node';
import type { GradedStudent, Gradebook } from '../api/api.js';

/** What a cell of an exported gradebook says. */
const cellText = ({ marks, excused }: GradedStudent['cells'][number]): number | string | null =>
  excused ? 'excused' : marks;

const percentOf = ({ total }: GradedStudent): number | null =>
  total.share === null ? null : Math.round(total.share * 10_000) / 100;

const headerOf = ({ exercises }: Gradebook): string[] => [
  'name',
  'address',
  'section',
  ...exercises.map(({ title, marks }) => `${title} (of ${marks})`),
  'total in percent',
];

const lineOf = (student: GradedStudent): (string | number | null)[] => [
  student.name,
  student.email,
  student.section,
  ...student.cells.map(cellText),
  percentOf(student),
];

/** One line for each student; texts that a spreadsheet would take for formulas are neutralised. */
export const gradebookCsv = (gradebook: Gradebook): string =>
  writeSpreadsheetCsv(headerOf(gradebook), gradebook.students.map(lineOf));

/** The same as a workbook, in which a text is a text whatever it begins with, with how each total came about. */
export async function gradebookWorkbook(gradebook: Gradebook): Promise<Buffer> {
  const header = (texts: readonly string[]) =>
    texts.map((value) => ({ value, fontWeight: 'bold' as const, wrap: true }));
  const cell = (value: string | number | null) =>
    value === null
      ? null
      : typeof value === 'number'
        ? { type: Number, value }
        : { type: String, value: value.replace(/\p{Cc}+/gu, ' ') };
  const marks: SheetData = [
    header(headerOf(gradebook)),
    ...gradebook.students.map((student) => lineOf(student).map(cell)),
  ];
  const totals: SheetData = [
    header(['name', 'how the total came about']),
    ...gradebook.students.map(({ name, total }) => [name, total.steps.join(' ')].map(cell)),
  ];
  return writeXlsxFile([
    { data: marks, sheet: 'Marks', stickyRowsCount: 1, stickyColumnsCount: 1 },
    { data: totals, sheet: 'Totals' },
  ]).toBuffer();
}

/** An archive of OneRoster 1.2, gradebook part. */
export const gradebookOneRoster = (gradebook: Gradebook, course: string, at: Date): Uint8Array =>
  oneRosterZip({
    course,
    plan: gradebook.plan,
    exercises: gradebook.exercises.map(({ id, title, marks, opensAt, deadline, state }) => ({
      ...{ id, title, opensAt, deadline },
      outOf: marks,
      returned: state === 'returned',
    })),
    students: gradebook.students.map(({ id, cells }) => ({
      id,
      cells: cells.map(({ marks, latePercent, excused }) => ({ marks, late: latePercent > 0, excused })),
    })),
    day: at.toISOString().slice(0, 10),
  });
