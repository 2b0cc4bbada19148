// How often mistakes in splits and folds are named where they were made, and where an assignment is incorrect for another reason.
import { shuffle } from '../../core/dist/foundation/index.js';
import {
  FOLDS_SLIPS,
  SPLIT_SLIPS,
} from '../../core/dist/assessment/questions/assignments/assignment-slips.js';
import {
  groupsCheck,
  NO_BOUNDS,
  shareCheck,
  strataCheck,
  timeCheck,
} from '../../core/dist/assessment/questions/assignments/assignment-checks.js';

const TEST = 0.3;
const FOLDS = 5;
const WITHIN = 2;
const PARTS = [
  { name: 'training', share: 1 - TEST },
  { name: 'test', share: TEST },
];
const FOLD_PARTS = Array.from({ length: FOLDS }, (_, i) => ({ name: `fold ${i + 1}`, share: 1 / FOLDS }));

/** Rows in groups of one to eight, with a class, and a time that goes with neither. */
function rowsOf(random) {
  const n = 100 + random.below(300);
  const groups = new Int32Array(n);
  for (let row = 0, group = 0; row < n; group++)
    for (let size = 1 + random.below(8); size > 0 && row < n; size--) groups[row++] = group;
  const order = shuffle(
    Int32Array.from({ length: n }, (_, i) => i),
    random,
  );
  const mixed = (of) => Int32Array.from(order, (row) => of[row]);
  return {
    n,
    groups: mixed(groups),
    classes: Int32Array.from({ length: n }, () => Number(random.unit() < 0.35)),
    times: Float64Array.from({ length: n }, () => Math.floor(1000 * random.unit())),
    identifiers: Array.from(order, (row) => String(1000 + row)),
  };
}

/** What is asked of the rows: sizes, and one thing beside them. */
const keyOf = ({ n, groups, classes, times }, asks) => ({
  strata: asks === 'strata' ? { column: 'class', labels: ['no', 'yes'], codes: classes } : null,
  groups: asks === 'groups' ? { column: 'group', labels: Array.from(groups, String), codes: groups } : null,
  time: asks === 'time' ? { column: 'day', values: times } : null,
  twins: Int32Array.from({ length: n }, (_, i) => i),
  bounds: { ...NO_BOUNDS, rows: 8, range: 8 },
  truth: null,
  references: [],
});

/** The slips of an assignment; null where no check fails, so that nothing is wrong. */
function named(rows, asks, assigned, isFolds) {
  const parts = isFolds ? FOLD_PARTS : PARTS;
  const names = parts.map(({ name }) => name);
  const key = keyOf(rows, asks);
  const checks = [
    shareCheck(assigned, parts, WITHIN, key.bounds),
    ...(key.strata ? [strataCheck(assigned, names, key.strata, WITHIN, key.bounds)] : []),
    ...(key.groups ? [groupsCheck(assigned, key.groups)] : []),
    ...(key.time ? [timeCheck(assigned, names, key.time)] : []),
  ];
  const fails = checks.flatMap(({ id, outcome }) => (outcome === 'fails' ? [id] : []));
  if (fails.length === 0) return null;
  const file = { assigned, parts, key, identifiers: rows.identifiers, fails };
  return (isFolds ? FOLDS_SLIPS : SPLIT_SLIPS).filter(({ test }) => test(file) !== null).map(({ id }) => id);
}

/** Rows in an order, of which the last share is for testing. */
function cut(order, share = TEST) {
  const assigned = new Int32Array(order.length);
  order.slice(Math.round(order.length * (1 - share))).forEach((row) => (assigned[row] = 1));
  return assigned;
}

const places = ({ n }) => Int32Array.from({ length: n }, (_, i) => i);
const shuffled = (rows, random) => shuffle(places(rows), random);
const sortedBy = (rows, of) => places(rows).sort((a, b) => of(a) - of(b));
const inTurn = (order) => {
  const folds = new Int32Array(order.length);
  order.forEach((row, i) => (folds[row] = i % FOLDS));
  return folds;
};
const inPieces = (order) => {
  const folds = new Int32Array(order.length);
  order.forEach((row, i) => (folds[row] = Math.floor((i * FOLDS) / order.length)));
  return folds;
};

/** What is asked, whether folds are made, and the assignment under the mistake. */
const MISTAKES = {
  'fractions-exchanged': {
    asks: '',
    isFolds: false,
    make: (rows, random) => cut(shuffled(rows, random), 1 - TEST),
  },
  'not-stratified': { asks: 'strata', isFolds: false, make: (rows, random) => cut(shuffled(rows, random)) },
  'groups-cut': { asks: 'groups', isFolds: false, make: (rows, random) => cut(shuffled(rows, random)) },
  'first-rows-taken': {
    asks: 'strata',
    isFolds: false,
    make: (rows) => cut(sortedBy(rows, (row) => rows.classes[row] + row / rows.n / 2)),
  },
  'shuffled-in-time': { asks: 'time', isFolds: false, make: (rows, random) => cut(shuffled(rows, random)) },
  'sizes-unequal': {
    asks: '',
    isFolds: true,
    make: (rows, random) => Int32Array.from({ length: rows.n }, () => random.below(FOLDS)),
  },
  'in-file-order': {
    asks: 'strata',
    isFolds: true,
    make: (rows) => inPieces(sortedBy(rows, (row) => rows.classes[row] + row / rows.n / 2)),
  },
};

/** Assignments that are wrong for another reason, of which no slip is true. */
const OTHERS = [
  // Other sizes, drawn by chance.
  { asks: '', make: (rows, random) => cut(shuffled(rows, random), 0.38 + 0.2 * random.unit()) },
  // Whole groups, but for a row or two.
  {
    asks: 'groups',
    make: (rows, random) => {
      const assigned = Int32Array.from(rows.groups, (group) => Number(group % 10 < 3));
      for (let i = 0; i <= random.below(2); i++) {
        const row = random.below(rows.n);
        assigned[row] = 1 - assigned[row];
      }
      return assigned;
    },
  },
  // In the order of time, but for some rows.
  {
    asks: 'time',
    make: (rows, random) => cut(sortedBy(rows, (row) => rows.times[row] + 150 * (random.unit() - 0.5))),
  },
];

export function assignedRun(random, { answers, wrongs }) {
  const made = new Map(Object.keys(MISTAKES).map((id) => [id, { n: 0, named: 0 }]));
  let [right, rightNamed, wrong, wrongNamed] = [0, 0, 0, 0];
  while ([...made.values()].some(({ n }) => n < answers) || wrong < wrongs) {
    const rows = rowsOf(random);
    for (const [id, { asks, isFolds, make }] of Object.entries(MISTAKES)) {
      const own = made.get(id);
      if (own.n >= answers) continue;
      const found = named(rows, asks, make(rows, random), isFolds);
      if (!found) continue;
      own.n++;
      if (found.includes(id)) own.named++;
    }
    for (const { asks, make } of OTHERS) {
      const found = named(rows, asks, make(rows, random), false);
      if (!found) continue;
      wrong++;
      if (found.length > 0) wrongNamed++;
    }
    right++;
    if ((named(rows, '', inTurn(shuffled(rows, random)), true) ?? []).length > 0) rightNamed++;
  }
  return { made, right, rightNamed, wrong, wrongNamed };
}
