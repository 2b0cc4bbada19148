import { describe, expect, it } from '@jest/globals';
import { asksNames, generatorOf } from '@modest-sieve/core/assessment';
import { prepare, readCsv, rolesAfter, writeRecords, cellText } from '@modest-sieve/core/data';
import { computedAnswers, LESSONS } from './lessons.js';
import { DEMO_TABLES } from './tables.js';

const [demo] = DEMO_TABLES;
const raw = readCsv(new TextEncoder().encode(demo.csv()), { file: demo.file }).table;
const { table } = prepare(raw, demo.steps);
/** All rows, as a file that students might have. */
const training = new TextEncoder().encode(
  writeRecords(
    table.columns.map(({ name }) => name),
    Array.from({ length: table.rowCount }, (_, row) => table.columns.map((column) => cellText(column, row))),
  ),
);

describe('the lessons in figures', () => {
  it.each(LESSONS.map((lesson) => [lesson.title, lesson] as const))('%s has its keys', (_, lesson) => {
    const kind = generatorOf(lesson.figures);
    if (kind.from !== 'data') throw new Error('drawn');
    const roles = rolesAfter(table, demo.roles);
    if (!roles) throw new Error('no roles');
    kind.check?.(lesson.figures.values, table.columns, roles);
    const { asked, given } = kind.compute(lesson.figures.values, {
      ...{ table, validation: null, all: table },
      roles,
    });
    for (const [, name = ''] of lesson.text.matchAll(/\{(\w+)\}/g)) expect(given).toHaveProperty(name);
    const answers = computedAnswers(lesson, training);
    expect(Object.keys(answers)).toEqual(asked.map(({ key }) => key));
    for (const one of asked)
      if (asksNames(one)) expect(one.right.length).toBeLessThan(one.choices.length);
      else expect(Number(answers[one.key])).toBeCloseTo(one.figure.value ?? NaN, 3);
  });
});
