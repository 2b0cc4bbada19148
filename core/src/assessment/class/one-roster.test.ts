import { strFromU8, unzipSync } from 'fflate';
import { describe, expect, it } from '@jest/globals';
import { readCsv } from '../../data/formats/csv/read.js';
import { columnNamed, cellText } from '../../data/table/table.js';
import { oneRosterFiles, oneRosterZip, type RosterGrades } from './one-roster.js';

const grades: RosterGrades = {
  course: 'c1',
  plan: { categories: [{ name: 'Sheets', weight: 60, drop: 0 }], exercises: [{ exercise: 'e1', category: 'Sheets', weight: 1 }] },
  exercises: [
    { id: 'e1', title: 'A first try', outOf: 15, opensAt: '2026-11-01T08:00:00.000Z', deadline: '2026-12-04T18:00:00.000Z', returned: true },
    { id: 'e2', title: '=HYPERLINK("x")', outOf: 10, opensAt: '2026-11-01T08:00:00.000Z', deadline: '2026-12-09T18:00:00.000Z', returned: false },
  ],
  students: [
    { id: 's1', cells: [{ marks: 8.73, late: true, excused: false }, { marks: 4, late: false, excused: false }] },
    { id: 's2', cells: [{ marks: null, late: false, excused: false }, { marks: null, late: false, excused: true }] },
  ],
  day: '2026-12-05',
}; // prettier-ignore

const recordsOf = (text: string): Record<string, string | null>[] => {
  const { table } = readCsv(new TextEncoder().encode(text), { file: 'a file' });
  return Array.from({ length: table.rowCount }, (_, row) =>
    Object.fromEntries(
      table.columns.map((column) => [column.name, cellText(columnNamed(table, column.name), row)]),
    ),
  );
};

const UNIT = { NUMBER: /^\d+(\.\d+)?$/, DAY: /^\d{4}-\d\d-\d\d$/, ID: /^[\w-]+$/, TRUTH: /^(true|false)$/ };
/** Columns of OneRoster 1.2 that must have a value, with its type (from memory of the specification). */
const REQUIRED: Readonly<Record<string, Readonly<Record<string, RegExp>>>> = {
  'categories.csv': { sourcedId: UNIT.ID, title: /./, weight: UNIT.NUMBER },
  'lineItems.csv': {
    sourcedId: UNIT.ID,
    title: /./,
    assignDate: UNIT.DAY,
    dueDate: UNIT.DAY,
    classSourcedId: UNIT.ID,
    categorySourcedId: UNIT.ID,
    gradingPeriodSourcedId: UNIT.ID,
    resultValueMin: UNIT.NUMBER,
    resultValueMax: UNIT.NUMBER,
  },
  'results.csv': {
    sourcedId: UNIT.ID,
    lineItemSourcedId: UNIT.ID,
    studentSourcedId: UNIT.ID,
    scoreStatus: /^(exempt|fully graded|not submitted|partially graded|submitted)$/,
    scoreDate: UNIT.DAY,
    late: UNIT.TRUTH,
    missing: UNIT.TRUTH,
  },
};

describe('a OneRoster archive', () => {
  const files = oneRosterFiles(grades);

  it.each(Object.entries(REQUIRED))('%s has its columns, each of its type', (name, columns) => {
    const records = recordsOf(files[name] ?? '');
    expect(records.length).toBeGreaterThan(0);
    for (const record of records) {
      expect(record).toMatchObject({ status: null, dateLastModified: null });
      for (const [column, type] of Object.entries(columns)) expect(record[column]).toMatch(type);
    }
  });

  it('refers to what it has', () => {
    const categories = recordsOf(files['categories.csv'] ?? '').map(({ sourcedId }) => sourcedId);
    const items = recordsOf(files['lineItems.csv'] ?? '');
    for (const { categorySourcedId } of items) expect(categories).toContain(categorySourcedId);
    const results = recordsOf(files['results.csv'] ?? '');
    expect(new Set(results.map(({ lineItemSourcedId }) => lineItemSourcedId))).toEqual(new Set(['e1', 'e2']));
    expect(new Set(results.map(({ sourcedId }) => sourcedId)).size).toBe(results.length);
  });

  it('says of each student and exercise how it stands', () => {
    const results = recordsOf(files['results.csv'] ?? '');
    expect(
      results.map(({ scoreStatus, score, late, missing }) => [scoreStatus, score, late, missing]),
    ).toEqual([
      ['fully graded', '8.73', 'true', 'false'],
      ['partially graded', '4', 'false', 'false'],
      ['not submitted', null, 'false', 'true'],
      ['exempt', null, 'false', 'false'],
    ]);
  });

  it('names its files, and neutralises what a spreadsheet would take for a formula', () => {
    const manifest: Record<string, string | null> = Object.fromEntries(
      recordsOf(files['manifest.csv'] ?? '').map(({ propertyName, value }) => [
        propertyName ?? '',
        value ?? null,
      ]),
    );
    expect(manifest).toMatchObject({
      'oneroster.version': '1.2',
      'file.results': 'bulk',
      'file.users': 'absent',
    });
    expect(files['lineItems.csv']).toContain(`"'=HYPERLINK`);
    const zipped = unzipSync(oneRosterZip(grades));
    expect(Object.keys(zipped).sort()).toEqual(Object.keys(files).sort());
    expect(strFromU8(zipped['results.csv'] ?? new Uint8Array())).toBe(files['results.csv']);
  });
});
