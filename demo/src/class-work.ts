import { columnNamed, readCsv, type Table } from '@modest-sieve/core/data';
import { fitModel, modelFromSettings, predictRows, targetOf } from '@modest-sieve/core/models';
import { CLASSMATES, type Classmate, type Way } from './classmates.js';
import type { DemoAnswer } from './exercise-parts.js';
import { lessonAnswers } from './lessons.js';
import { fileOf, fieldsFrom, precisionAndRecall, type Sheet } from './submissions.js';

// What the rest of the class hands in: models that are fitted to the training rows of the pack, and what becomes of them.

const ROLES = { target: 'survived', task: 'binary', positive: 'yes' } as const;
const everyRow = (table: Table) => Int32Array.from({ length: table.rowCount }, (_, row) => row);
/** Rows whose answer a copied file has otherwise. */
const EDITED = [17, 80, 155];

/** The probability of survival for each held-out row, as a student comes to it. */
function probabilitiesOf(way: Way, training: Uint8Array, heldOut: Uint8Array): Float64Array {
  const { table } = readCsv(training, { file: 'training.csv' });
  const [kind = '', ...settings] = way.model.split(' ');
  const fitted = fitModel({
    table,
    model: modelFromSettings(kind, settings, 'model'),
    task: ROLES.task,
    targetName: ROLES.target,
    group: null,
    target: targetOf(table, ROLES),
    features: way.features,
    rows: everyRow(table),
    weights: null,
    seed: 1,
  });
  const asked = readCsv(heldOut, { file: 'held-out.csv' }).table;
  const [no = new Float64Array(), yes = no] = predictRows(fitted, asked, everyRow(asked));
  const column = columnNamed(table, ROLES.target);
  const positiveLast = column.kind !== 'category' || column.levels.indexOf('yes') === 1;
  return changed(positiveLast ? yes : no, way.mistake);
}

/** What a mistake makes of probabilities. */
function changed(probabilities: Float64Array, mistake: Way['mistake']): Float64Array {
  const { length } = probabilities;
  if (mistake === 'exchanged') return probabilities.map((p) => 1 - p);
  if (mistake === 'shifted') return probabilities.map((_, row) => probabilities[(row + 1) % length] ?? 0);
  if (mistake === 'edited') return probabilities.map((p, row) => (EDITED.includes(row) ? 1 - p : p));
  return probabilities;
}

/** Files of the classmates to a question of predictions, by student. */
export const classPredictions = (asked: 'labels' | 'probabilities'): DemoAnswer[][] =>
  CLASSMATES.map(({ tries }) =>
    tries.map((way) => ({
      question: 'q1',
      file: (pack) => {
        const heldOut = pack['held-out.csv'] ?? new Uint8Array();
        const found = probabilitiesOf(way, pack['training.csv'] ?? new Uint8Array(), heldOut);
        return asked === 'labels'
          ? fileOf(heldOut, 'prediction', (_, row) => ((found[row] ?? 0) >= 0.5 ? 'yes' : 'no'))
          : fileOf(heldOut, 'probability', (_, row) => (found[row] ?? 0).toFixed(4));
      },
    })),
  );

/** Precision and recall as a classmate works them out. */
function counted(how: Classmate['counts']): (sheet: Sheet) => Record<string, string> {
  return (sheet) => {
    const right = fieldsFrom(sheet);
    const { precision, recall, accuracy } = precisionAndRecall(sheet.text);
    const typed = (label: string) => {
      const isPrecision = label.startsWith('precision');
      if (how === 'exchanged') return isPrecision ? recall : precision;
      if (how === 'accuracy') return isPrecision ? precision : accuracy;
      return isPrecision ? precision * 0.93 : recall;
    };
    if (how === 'right') return right;
    return Object.fromEntries(sheet.fields.map(({ key, label }) => [key, typed(label).toFixed(3)]));
  };
}

/** Answers of the classmates to the question of precision and recall, by student. */
export const classCounts = (question: string): DemoAnswer[][] =>
  CLASSMATES.map(({ counts }) => (counts === 'left out' ? [] : [{ question, fields: counted(counts) }]));

/** Answers of the classmates to the lessons in figures, by student. */
export const classLessons = (): DemoAnswer[][] =>
  CLASSMATES.map(({ lessons, slips }) => lessonAnswers(lessons, slips));
