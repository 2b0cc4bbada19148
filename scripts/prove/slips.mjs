// How often a mistake is named where it was made, and where it was not: answers made by making it, right answers, and answers that are wrong for another reason.
import { generate, GENERATORS, asksNames, SLIPS_BY_KIND } from '../../core/dist/assessment/index.js';
import { claimedSlips } from '../../core/dist/assessment/questions/values/claimed-slips.js';
import { PREDICTION_SLIPS } from '../../core/dist/assessment/questions/predictions/prediction-slips.js';
import { typedNumber } from '../../core/dist/assessment/generators/typed.js';
import { newPlan } from '../../core/dist/data/sentence/sentence.js';
import { assignedRun } from './assigned-slips.mjs';
import { PUBLIC_SECRET, seededRandom, shuffle } from '../../core/dist/foundation/index.js';

const normal = (random) =>
  Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());

/** A number as a student types it: three to six decimals, and two significant digits at least. */
function typed(value, random) {
  const digits = 3 + random.below(4);
  const decimals = Math.max(digits, 1 - Math.floor(Math.log10(Math.abs(value) || 1)));
  const read = typedNumber(Number.isInteger(value) ? String(value) : value.toFixed(Math.min(12, decimals)));
  if ('wrong' in read) throw new Error(read.wrong);
  return read;
}

/** Everything that a kind asks of one student, as numbers. */
function numbersOf(kind, who) {
  const plan = newPlan(kind, []);
  const { asked } = kind.parameters;
  const all =
    asked?.type === 'several' ? { ...plan, values: { ...plan.values, asked: asked.choices } } : plan;
  return generate(all, { secret: PUBLIC_SECRET, question: 'q', id: who }).asked.flatMap((one) =>
    asksNames(one) ? [] : [one],
  );
}

/** A wrong number for another reason: a slip of the pen, other rows, another model, another student's figure, or anything. */
function otherWrong(right, others, random) {
  switch (random.below(5)) {
    case 0:
      return right * (1 + 0.02 * normal(random));
    case 1:
      return right * (1 + 0.15 * normal(random));
    case 2:
      return right + (1 + random.below(9)) * 10 ** -(2 + random.below(3)) * (random.below(2) ? 1 : -1);
    case 3:
      return others[random.below(others.length)] ?? right;
    default:
      return Math.abs(right) <= 1 ? random.unit() : right * 2 * random.unit();
  }
}

/** Named by what is right beside it, and not by its value. */
const AMONG_FEW = 'best-for-one-standard-error';

function valueRun(random, { answers, rights, wrongs }) {
  const kinds = GENERATORS.filter(({ from }) => from === 'chance');
  const made = new Map();
  const items = (who) =>
    kinds.flatMap((kind) => numbersOf(kind, who).map((one) => ({ kind: kind.key, one })));
  /** Figures of other students, by the kind and the figure. */
  const others = new Map();
  for (let student = 0; student < 40; student++)
    for (const { kind, one } of items(`other ${student}`)) {
      const name = `${kind} ${one.key}`;
      others.set(name, [...(others.get(name) ?? []), one.figure.value]);
    }
  let [right, rightNamed, wrong, wrongNamed] = [0, 0, 0, 0];
  for (let student = 0; ; student++) {
    const isLacking = [...made.values()].some(({ n }) => n < answers) || made.size === 0;
    if ((!isLacking && right >= rights && wrong >= wrongs) || student > 40 * answers) break;
    for (const { kind, one } of items(`student ${student}`)) {
      const key = one.figure.value;
      for (const [id, values] of Object.entries(one.mistakes ?? {})) {
        if (id === AMONG_FEW) continue;
        const own = made.get(id) ?? { n: 0, named: 0 };
        made.set(id, own);
        const value = values[random.below(values.length)];
        const said = typed(value, random);
        // A mistake that gives what is right to the digits typed is none.
        if (own.n >= answers || Math.abs(said.value - key) <= said.unit) continue;
        own.n++;
        if (claimedSlips(one, said).includes(id)) own.named++;
      }
      if (right < rights) {
        right++;
        if (claimedSlips(one, typed(key, random)).length > 0) rightNamed++;
      }
      if (wrong < wrongs) {
        const said = typed(otherWrong(key, others.get(`${kind} ${one.key}`) ?? [], random), random);
        if (Math.abs(said.value - key) <= said.unit) continue;
        wrong++;
        if (claimedSlips(one, said).length > 0) wrongNamed++;
      }
    }
  }
  return { made, right, rightNamed, wrong, wrongNamed };
}

/** Rows with a truth and what models of some strength say of them. */
function classRows(random, n, classes, strength) {
  const labels = Array.from({ length: classes }, (_, i) => `class ${i}`);
  const share = 0.25 + 0.5 * random.unit();
  const truth = Int32Array.from({ length: n }, () =>
    classes === 2 ? Number(random.unit() < share) : random.below(classes),
  );
  const scores = Array.from(truth, (own) =>
    labels.map((_, label) => Math.exp(strength * (own === label ? 1 : 0) + normal(random))),
  );
  const probabilities = labels.map((_, label) =>
    Float64Array.from(scores, (row) => row[label] / row.reduce((a, b) => a + b, 0)),
  );
  const predicted = Int32Array.from(scores, (row) => row.indexOf(Math.max(...row)));
  return { labels, truth, probabilities, predicted };
}

const reordered = (predictions, order) => ({
  ...predictions,
  predicted: predictions.predicted.constructor.from(order, (row) => predictions.predicted[row]),
  ...(predictions.kind === 'labels'
    ? {
        probabilities:
          predictions.probabilities?.map((of) => Float64Array.from(order, (row) => of[row])) ?? null,
      }
    : {}),
});

/** A file of predictions as an honest student would hand it in, and its key. */
function honestFile(random) {
  const n = 80 + random.below(600);
  const places = Int32Array.from({ length: n }, (_, i) => i);
  const identifiers = Array.from(shuffle(places.slice(), random), (place) => String(1000 + place));
  const key = { groups: null, feedback: new Uint8Array(n), positive: null };
  if (random.below(2) === 0) {
    const values = Float64Array.from({ length: n }, () => 25 + 6 * normal(random));
    const predicted = values.map((value) => 25 + 0.7 * (value - 25) + 3 * normal(random));
    return {
      identifiers,
      places,
      key: { ...key, task: 'regression', labels: [], classes: null, values },
      predictions: { kind: 'numbers', predicted },
    };
  }
  const classes = 2 + random.below(3);
  const { labels, truth, probabilities, predicted } = classRows(random, n, classes, 1 + 2 * random.unit());
  const withProbabilities = random.below(2) === 0;
  return {
    identifiers,
    places,
    key: { ...key, task: classes === 2 ? 'binary' : 'multiclass', labels, classes: truth, values: null },
    predictions: withProbabilities
      ? { kind: 'labels', predicted, probabilities, derived: true }
      : { kind: 'labels', predicted, probabilities: null, derived: false },
  };
}

const rank = (identifiers) => {
  const order = Array.from(identifiers, (_, i) => i).sort(
    (a, b) => Number(identifiers[a]) - Number(identifiers[b]),
  );
  const ranks = new Int32Array(order.length);
  order.forEach((place, i) => (ranks[place] = i));
  return { order: Int32Array.from(order), ranks };
};

/** Files with a mistake, by the slip: null where it cannot be made in such a file. */
const FILE_MISTAKES = {
  'labels-exchanged': ({ predictions, key }) =>
    predictions.kind === 'labels' && !predictions.derived
      ? { ...predictions, predicted: predictions.predicted.map((code) => (code + 1) % key.labels.length) }
      : null,
  'probability-of-other-class': ({ predictions, key }) =>
    predictions.kind === 'labels' && predictions.probabilities && key.labels.length === 2
      ? {
          ...predictions,
          predicted: predictions.predicted.map((code) => 1 - code),
          probabilities: predictions.probabilities.toReversed(),
        }
      : null,
  'rows-shifted': ({ predictions, places }) =>
    reordered(
      predictions,
      Int32Array.from(places, (row) => (row + 1) % places.length),
    ),
  'rows-sorted': ({ predictions, identifiers }) => reordered(predictions, rank(identifiers).order),
  'file-order-assumed': ({ predictions, identifiers }) => reordered(predictions, rank(identifiers).ranks),
  'logarithm-of-target': ({ predictions }) =>
    predictions.kind === 'numbers'
      ? { ...predictions, predicted: predictions.predicted.map((value) => Math.log(Math.max(0.1, value))) }
      : null,
  'factor-of-unit': ({ predictions }) =>
    predictions.kind === 'numbers'
      ? { ...predictions, predicted: predictions.predicted.map((value) => value * 1000) }
      : null,
  'standardised-target': ({ predictions }) =>
    predictions.kind === 'numbers'
      ? { ...predictions, predicted: predictions.predicted.map((value) => (value - 25) / 6) }
      : null,
  constant: ({ predictions }) =>
    predictions.kind === 'numbers'
      ? { ...predictions, predicted: predictions.predicted.map(() => 25) }
      : {
          ...predictions,
          predicted: predictions.predicted.map(() => 0),
          probabilities:
            predictions.probabilities?.map((of) => of.map(() => 1 / predictions.probabilities.length)) ??
            null,
        },
  'other-threshold': ({ predictions, key }) =>
    predictions.kind === 'labels' && predictions.probabilities && key.labels.length === 2
      ? {
          ...predictions,
          derived: false,
          predicted: Int32Array.from(predictions.probabilities[1], (p) => Number(p >= 0.3)),
        }
      : null,
};

/** Files that are bad for another reason: random, of a weak model, with rows that went astray, of one class too often, on another scale. */
function otherFile({ predictions, key, places }, random) {
  const some = shuffle(places.slice(), random);
  switch (random.below(5)) {
    case 4:
      // Of numbers on any other scale; of classes one that is rare is said often, as by a model with balanced weights.
      if (predictions.kind === 'numbers') {
        const factor = 10 ** (2 * random.unit() - 1);
        return { ...predictions, predicted: predictions.predicted.map((value) => value * factor) };
      }
      return {
        ...predictions,
        probabilities: null,
        derived: false,
        predicted: predictions.predicted.map((code) => (code === 0 && random.unit() < 0.8 ? 1 : code)),
      };
    case 0:
      return reordered(predictions, some);
    case 1: {
      // A part of the rows has the predictions of others.
      const part = some.slice(0, Math.floor(places.length * (0.2 + 0.6 * random.unit())));
      const turned = shuffle(part.slice(), random);
      const order = places.slice();
      part.forEach((row, i) => (order[row] = turned[i]));
      return reordered(predictions, order);
    }
    case 2:
      return predictions.kind === 'numbers'
        ? {
            ...predictions,
            predicted: predictions.predicted.map(
              (value) => value * (0.6 + 0.8 * random.unit()) + 3 * normal(random),
            ),
          }
        : {
            ...predictions,
            probabilities: null,
            derived: false,
            predicted: predictions.predicted.map((code) =>
              random.unit() < 0.5 ? code : random.below(key.labels.length),
            ),
          };
    default:
      return predictions.kind === 'numbers'
        ? { ...predictions, predicted: predictions.predicted.map((value) => value - 10 * random.unit()) }
        : {
            ...predictions,
            probabilities: null,
            derived: false,
            // One class is said far too often.
            predicted: predictions.predicted.map((code) => (random.unit() < 0.8 ? 0 : code)),
          };
  }
}

const namedIn = (file) => PREDICTION_SLIPS.filter(({ test }) => test(file) !== null).map(({ id }) => id);

function fileRun(random, { answers, rights, wrongs }) {
  const made = new Map(Object.keys(FILE_MISTAKES).map((id) => [id, { n: 0, named: 0 }]));
  let [right, rightNamed, wrong, wrongNamed] = [0, 0, 0, 0];
  while ([...made.values()].some(({ n }) => n < answers) || right < rights || wrong < wrongs) {
    const honest = honestFile(random);
    for (const [id, make] of Object.entries(FILE_MISTAKES)) {
      const own = made.get(id);
      const predictions = own.n < answers ? make(honest) : null;
      if (!predictions) continue;
      own.n++;
      if (namedIn({ ...honest, predictions }).includes(id)) own.named++;
    }
    if (right < rights) {
      right++;
      if (namedIn(honest).length > 0) rightNamed++;
    }
    if (wrong < wrongs) {
      wrong++;
      if (namedIn({ ...honest, predictions: otherFile(honest, random) }).length > 0) wrongNamed++;
    }
  }
  return { made, right, rightNamed, wrong, wrongNamed };
}

export function slipRun({ answers = 500, rights = 5000, wrongs = 20_000, files = 1000 } = {}) {
  const values = valueRun(seededRandom(20), { answers, rights, wrongs });
  const predictions = fileRun(seededRandom(21), {
    answers: Math.min(answers, files),
    rights: files,
    wrongs: 2 * files,
  });
  const assignments = assignedRun(seededRandom(22), { answers: Math.min(answers, files), wrongs: 2 * files });
  const measured = new Set([values, predictions, assignments].flatMap(({ made }) => [...made.keys()]));
  return {
    values,
    predictions,
    assignments,
    unmeasured: Object.values(SLIPS_BY_KIND)
      .flat()
      .map(({ id }) => id)
      .filter((id, i, all) => !measured.has(id) && all.indexOf(id) === i),
  };
}
