// How often honest classes have answers that are said to be alike, and how often answers that were passed on are found.
import { Buffer } from 'node:buffer';
import { asksNames, GENERATORS, nearlySameFiles, rightForAnother } from '../../core/dist/assessment/index.js';
import { keyOf } from '../../core/dist/assessment/questions/values/values.js';
import { toleranceKindOf } from '../../core/dist/assessment/generators/tolerance.js';
import { typedNumber } from '../../core/dist/assessment/generators/typed.js';
import { readCsv } from '../../core/dist/data/index.js';
import { fitModel, modelFromSettings, predictRows, targetOf } from '../../core/dist/models/index.js';
import { newPlan } from '../../core/dist/data/sentence/sentence.js';
import { PUBLIC_SECRET, seededRandom, shuffle } from '../../core/dist/foundation/index.js';

const normal = (random) =>
  Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());

const typed = (value, decimals) => {
  const read = typedNumber(Number.isInteger(value) ? String(value) : value.toFixed(decimals));
  if ('wrong' in read) throw new Error(read.wrong);
  return read;
};

/** A question of drawn numbers, and what it asks of a student. */
function questionOf(kind) {
  const figures = newPlan(kind, []);
  const tolerance = newPlan(toleranceKindOf({ kind: 'digits' }), []);
  const key = { computed: null };
  const respondent = (id) => ({ secret: PUBLIC_SECRET, question: kind.key, id });
  const asked = (id) =>
    keyOf(figures, key, respondent(id)).asked.filter(
      (one) => !asksNames(one) && Number.isFinite(one.figure.value),
    );
  return { by: { figures, tolerance, key }, respondent, asked };
}

/** What somebody says who works alone: what is right, a known mistake, a slip of the pen, or anything of that size. */
function honestly(one, random) {
  const right = one.figure.value;
  const mistakes = Object.values(one.mistakes ?? {}).flat();
  const way = random.below(6);
  const value =
    way < 3
      ? right
      : way === 3 && mistakes.length > 0
        ? mistakes[random.below(mistakes.length)]
        : way === 4
          ? right * (1 + 0.03 * normal(random))
          : Math.abs(right) <= 1
            ? random.unit()
            : right * 2 * random.unit();
  // A whole number is typed as one.
  return typed(Number.isInteger(right) ? Math.round(value) : value, 2 + random.below(4));
}

const said = (asked, value) => new Map(asked.map((one) => [one.key, { typed: value(one) }]));

function typedRun(random, { classes, students, kinds }) {
  const counts = { classes: 0, flagged: 0, compared: 0, tooCommon: 0, passedOn: 0, found: 0 };
  for (let round = 0; round < classes; round++) {
    for (const kind of GENERATORS.filter(({ from }) => from === 'chance').slice(0, kinds)) {
      const { by, respondent, asked } = questionOf(kind);
      const answers = Array.from({ length: students }, (_, i) => {
        const id = `${round} student ${i}`;
        return { student: id, answer: `of ${id}`, said: said(asked(id), (one) => honestly(one, random)) };
      });
      const honest = rightForAnother(by, respondent, answers);
      counts.classes++;
      if (honest.found.length > 0) counts.flagged++;
      counts.compared += honest.compared;
      counts.tooCommon += honest.tooCommon;
      // The first student hands in what is right for the second.
      const [first, second] = answers;
      const copied = said(asked(second.student), (one) => typed(one.figure.value, 5));
      const { found } = rightForAnother(by, respondent, [{ ...first, said: copied }, ...answers.slice(1)]);
      counts.passedOn++;
      if (found.some(({ student, other }) => student === first.student && other === second.student))
        counts.found++;
    }
  }
  return counts;
}

/**
 * Models that a starter notebook offers, with the settings that students try.
 *
 * @type {[string, string[][]][]}
 */
const MODELS = [
  ['logistic', [[]]],
  ['ridge', [['penalty=1'], ['penalty=10']]],
  ['tree', [['depth=3'], ['depth=5'], ['depth=8'], ['depth=9']]],
  ['nearest', [['neighbours=5'], ['neighbours=9'], ['neighbours=25']]],
  ['naive-bayes', [[]]],
  [
    'forest',
    [
      ['trees=20', 'rows_per_leaf=5'],
      ['trees=21', 'rows_per_leaf=5'],
      ['trees=20', 'rows_per_leaf=6'],
    ],
  ],
  ['boosting', [['rounds=30'], ['rounds=31'], ['rounds=60']]],
];
const FEATURES = ['a', 'b', 'c', 'd'];

/** A table with a class, of whose cells one in twenty is missing. */
function tableOf(random, rows) {
  const lines = Array.from({ length: rows }, () => {
    const x = FEATURES.map(() => normal(random));
    const chance = 1 / (1 + Math.exp(-(x[0] + 0.6 * x[1] - 0.4 * x[2] * x[3])));
    const cells = x.map((value) => (random.below(20) === 0 ? '' : value.toFixed(3)));
    return [...cells, random.unit() < chance ? 'yes' : 'no'];
  });
  const read = (filled) =>
    readCsv(
      Buffer.from(
        [[...FEATURES, 'y'], ...lines.map((line) => line.map((cell) => (cell === '' ? filled : cell)))]
          .map((line) => line.join(','))
          .join('\n'),
      ),
      { file: 'table.csv' },
    ).table;
  return { table: read(''), filled: read('0'), unknown: lines.map((line) => line.includes('')) };
}

/** What a student hands in who works alone with the starter notebook: its first model unchanged, or another one. */
function honestFile({ table, filled, training, asked }, random) {
  const isUnchanged = random.below(10) < 4;
  const [kind, settings] = isUnchanged ? MODELS[0] : MODELS[random.below(MODELS.length)];
  const features = isUnchanged || random.below(2) ? FEATURES : FEATURES.filter(() => random.below(3) > 0);
  const fitted = fitModel({
    table,
    model: modelFromSettings(kind, settings[random.below(settings.length)], 'model'),
    task: 'binary',
    targetName: 'y',
    group: null,
    target: targetOf(table, { target: 'y', task: 'binary', positive: 'yes' }),
    features: features.length > 0 ? features : FEATURES,
    rows: training,
    weights: null,
    seed: 1 + random.below(2),
  });
  const [, yes] = predictRows(fitted, random.below(4) === 0 ? filled : table, asked);
  const decimals = [17, 6, 4, 3][random.below(4)];
  const cut = random.below(6) === 0 ? 0.05 : 0;
  return yes.map((p) => {
    const kept = Math.min(1 - cut, Math.max(cut, p));
    return decimals === 17 ? kept : Number(kept.toFixed(decimals));
  });
}

/** A file of which some rows were written over by hand. */
function writtenOver(values, random) {
  const rows = new Set(Array.from({ length: 1 + random.below(8) }, () => random.below(values.length)));
  return values.map((value, row) => (rows.has(row) ? 1 - value : value));
}

function fileRun(random, { classes, students }) {
  const counts = { classes: 0, flagged: 0, files: 0, passedOn: 0, found: 0, fewNumbers: 0 };
  for (let round = 0; round < classes; round++) {
    const rows = 400 + random.below(400);
    const { table, filled, unknown } = tableOf(random, rows);
    const all = shuffle(
      Int32Array.from({ length: rows }, (_, i) => i),
      random,
    );
    const [training, asked] = [all.slice(0, rows / 2).sort(), all.slice(rows / 2).sort()];
    const isUnknown = (row) => unknown[asked[row]] ?? false;
    const files = Array.from({ length: students }, (_, i) => ({
      answer: `a${i}`,
      student: `s${i}`,
      values: honestFile({ table, filled, training, asked }, random),
    }));
    counts.classes++;
    counts.files += files.length;
    if (nearlySameFiles(files, isUnknown).length > 0) counts.flagged++;
    const from = files[random.below(files.length)];
    const copy = { answer: 'copy', student: 'copier', values: writtenOver(from.values, random) };
    // Files of few numbers are not looked at: they are alike by themselves.
    if (new Set(from.values).size < from.values.length / 2) counts.fewNumbers++;
    else {
      counts.passedOn++;
      if (nearlySameFiles([...files, copy], isUnknown).some(({ second }) => second === 'copy'))
        counts.found++;
    }
  }
  return counts;
}

/** Both kinds of likeness; it holds where at most one honest class of twenty has any. */
export function likenessRun({ classes, fileClasses, students, kinds = Infinity }) {
  const typedOnes = typedRun(seededRandom(21, 'typed'), { classes, students, kinds });
  const files = fileRun(seededRandom(22, 'files'), { classes: fileClasses, students });
  return { typed: typedOnes, files };
}
