// How often verdicts in words are said where they are wrong, and where they are right: simulation on data that are made up.
import { seededRandom, shuffle } from '../../core/dist/foundation/index.js';
import { residualsSay } from '../../core/dist/evaluation/diagnostics/says.js';
import { diagnoseResiduals } from '../../core/dist/evaluation/diagnostics/diagnose.js';
import { normalBelow } from '../../core/dist/foundation/statistics/distributions.js';
import { calibrationSays } from '../../core/dist/metrics/curves/calibration-says.js';
import { metricNamed } from '../../core/dist/metrics/registry.js';
import { modelOf } from '../../core/dist/models/registry.js';
import { indices } from '../../core/dist/foundation/numbers.js';
import { qualityChecks } from '../../core/dist/audit/quality/checks.js';
import { splitQuality } from '../../core/dist/audit/quality/quality.js';
import { measureFold } from '../../core/dist/evaluation/trials/measure.js';
import { trialMetrics } from '../../core/dist/evaluation/trials/metrics.js';
import { TRAINING_SHARE } from '../../core/dist/evaluation/trials/plan.js';
import { trialSays } from '../../core/dist/evaluation/trials/says.js';
import { chooseSetting, summariseSetting } from '../../core/dist/evaluation/trials/summary.js';
import {
  honestAssignment,
  ownAssignment,
  unitsOf,
} from '../../core/dist/assessment/questions/assignments/assignment-honest.js';
import { boundsOf } from '../../core/dist/assessment/questions/assignments/honest-rate.js';
import {
  shareCheck,
  strataCheck,
} from '../../core/dist/assessment/questions/assignments/assignment-checks.js';
import { fitCheck } from '../../core/dist/assessment/questions/model/model-checks.js';
import { shapeCheck } from '../../core/dist/assessment/questions/curve/curve-checks.js';
import { curveFaults, runCheck } from '../../core/dist/assessment/questions/curve/run-checks.js';

const FOLDS = 5;
const DEPTHS = [1, 2, 3, 4, 6, 8, 12];

const normal = (random) =>
  Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());

/** n rows of five features of which the first makes the classes with a strength from 0, for none, up. */
function tableOf(random, n, strength) {
  const values = Array.from({ length: 5 }, () => Float64Array.from({ length: n }, () => normal(random)));
  const codes = Int32Array.from({ length: n }, (_, row) =>
    random.unit() < 1 / (1 + Math.exp(-strength * (values[0][row] ?? 0))) ? 1 : 0,
  );
  const columns = values.map((column, c) => ({
    kind: /** @type {const} */ ('number'),
    name: `x${c + 1}`,
    values: column,
  }));
  return {
    table: { rowCount: n, columns },
    target: { kind: /** @type {const} */ ('classes'), labels: ['no', 'yes'], codes, positive: 1 },
  };
}

/** Summaries of settings over shuffled folds; with the group of each row, over folds that keep groups whole. */
function curve(
  { table, target },
  random,
  { kind = 'tree', vary = [], values = {}, groups = null, k = FOLDS } = {},
) {
  const n = table.rowCount;
  const units = groups ?? indices(n);
  const foldOfUnit = new Int32Array(n);
  shuffle(indices(1 + units.reduce((a, b) => Math.max(a, b), 0)), random).forEach(
    (unit, i) => (foldOfUnit[unit] = i % k),
  );
  const foldOf = units.map((unit) => foldOfUnit[unit]);
  const measured = Array.from({ length: k }, (_, fold) =>
    measureFold({
      table,
      model: modelOf(kind, values),
      task: 'binary',
      targetName: 'y',
      group: null,
      target,
      features: table.columns.map(({ name }) => name),
      weights: null,
      seed: 0,
      vary,
      training: indices(n).filter((row) => foldOf[row] !== fold),
      test: indices(n).filter((row) => foldOf[row] === fold),
    }),
  );
  const metrics = trialMetrics('binary');
  const all = vary[0]?.settings ?? [null];
  return all.map((setting, i) =>
    summariseSetting(
      setting === null ? {} : { [vary[0].key]: setting },
      measured.map(({ figures }) => figures[i]),
      metrics,
    ),
  );
}

function saidOf(settings, metricKey, over = {}) {
  const metric = metricNamed(metricKey);
  const along = [{ key: 'depth', larger: /** @type {const} */ ('complex'), settings: DEPTHS }];
  const choices = Object.fromEntries(
    trialMetrics('binary').map((one) => [one.key, chooseSetting(settings, one, along)]),
  );
  return trialSays({
    settings,
    choices,
    place: choices[metricKey]?.best ?? 0,
    metric,
    labels: {},
    limits: { depth: { min: 1, max: 30 } },
    folds: FOLDS,
    baseline: null,
    majority: null,
    grouping: null,
    tried: 1,
    validation: null,
    isBaseline: true,
    ...over,
  });
}

const has = (checks, id, words) => checks.some((one) => one.id === id && one.message.includes(words));

/** Errors of settings as a student writes them, rounded to three decimals. */
const errorsOf = (settings, figure) =>
  settings.map(({ metrics }) => Math.round(1000 * (1 - metrics.accuracy[figure])) / 1000);

/**
 * A model that was handed in beside reference runs: it fits the training rows far more closely than they do, and is off by
 * `error` on the held-out rows where they are off by 1. Of classes these are errors of the log-odds.
 */
function closeFit(random, { metric, rows, references = 1, error = 1 }) {
  const isClass = metric !== 'rmse';
  const labels = ['no', 'yes'];
  const part = (n) => {
    const score = Float64Array.from({ length: n }, () => 1.5 * normal(random));
    const truth = isClass
      ? Int32Array.from(score, (one) => (random.unit() < 1 / (1 + Math.exp(-one)) ? 1 : 0))
      : score.map((one) => one + normal(random));
    const key = {
      task: isClass ? 'binary' : 'regression',
      labels: isClass ? labels : [],
      positive: isClass ? 'yes' : null,
      classes: isClass ? truth : null,
      values: isClass ? null : truth,
      groups: null,
      feedback: new Uint8Array(n),
    };
    const off = (by) => said(score.map((one) => one + by * normal(random)));
    const said = (scores) => {
      if (!isClass) return { kind: /** @type {const} */ ('numbers'), predicted: scores };
      const yes = scores.map((one) => 1 / (1 + Math.exp(-one)));
      return {
        kind: /** @type {const} */ ('labels'),
        predicted: Int32Array.from(yes, (share) => (share >= 0.5 ? 1 : 0)),
        probabilities: [yes.map((share) => 1 - share), yes],
        derived: true,
      };
    };
    const close = said(
      score.map((_, i) => (isClass ? 4 * (truth[i] - 0.5) : truth[i]) + 0.3 * normal(random)),
    );
    return { key, off, close };
  };
  const [training, heldOut] = [part(300), part(rows)];
  /** @type {any} of classes or of numbers, as the metric asks */
  const key = {
    ...heldOut.key,
    training: { answers: training.key },
    references: Array.from({ length: references }, (_, i) => ({
      name: `run ${i + 1}`,
      training: training.off(1),
      heldOut: heldOut.off(1),
    })),
  };
  return fitCheck(metric, training.close, heldOut.off(error), key).outcome === 'fails';
}

/**
 * Each verdict: whether what is said is wrong in the situation, how often it may be said, and one try.
 *
 * @type {readonly { verdict: string; situation: string; most?: number; least?: number; once: (random: any) => boolean }[]}
 */
const VERDICTS = [
  ...['accuracy', 'roc_auc', 'log_loss'].map((metric) => ({
    verdict: `Better than guessing, by ${metricNamed(metric).name}`,
    situation: 'noise, 150 rows',
    most: 0.05,
    once(random) {
      const data = tableOf(random, 150, 0);
      const seed = random.bits();
      const [own] = curve(data, seededRandom(seed), { values: { depth: 3 } });
      const [base] = curve(data, seededRandom(seed), { kind: 'class-shares' });
      const { mean, folds } = base.metrics[metric];
      return has(
        saidOf([own], metric, { isBaseline: false, baseline: { mean, folds } }),
        'baseline',
        'Better',
      );
    },
  })),
  {
    verdict: 'Better than guessing, by accuracy',
    situation: 'a strong relation, 150 rows',
    least: 0.8,
    once(random) {
      const data = tableOf(random, 150, 3);
      const seed = random.bits();
      const [own] = curve(data, seededRandom(seed), { values: { depth: 3 } });
      const [base] = curve(data, seededRandom(seed), { kind: 'class-shares' });
      const { mean, folds } = base.metrics.accuracy;
      return has(
        saidOf([own], 'accuracy', { isBaseline: false, baseline: { mean, folds } }),
        'baseline',
        'Better',
      );
    },
  },
  ...[
    { situation: 'noise, 150 rows, three of ten are positive', strength: 0, most: 0.05 },
    { situation: 'a strong relation, 150 rows', strength: 3, least: 0.8 },
  ].map(({ strength, ...one }) => ({
    verdict: 'Right more often than the most frequent class',
    ...one,
    once(random) {
      const data = tableOf(random, 150, strength);
      if (strength === 0)
        data.target.codes.forEach((_, row, codes) => (codes[row] = random.unit() < 0.3 ? 1 : 0));
      const seed = random.bits();
      const [own] = curve(data, seededRandom(seed), { values: { depth: 3 } });
      const [base] = curve(data, seededRandom(seed), { kind: 'most-frequent' });
      const { mean, folds } = base.metrics.accuracy;
      return has(
        saidOf([own], 'roc_auc', { isBaseline: false, majority: { mean, folds } }),
        'majority',
        'Right more often',
      );
    },
  })),
  ...[
    { situation: '60 groups of ten rows that mean nothing', effect: 0, most: 0.05 },
    { situation: '60 groups of ten rows, nearly all of one class in each', effect: 6, least: 0.5 },
  ].map(({ effect, ...one }) => ({
    verdict: 'Random folds are too good',
    ...one,
    once(random) {
      const groups = Int32Array.from({ length: 600 }, (_, row) => row % 60);
      const data = tableOf(random, 600, 1);
      const levels = Float64Array.from({ length: 60 }, () => normal(random));
      if (effect > 0)
        groups.forEach((group, row) => {
          // A feature by which a tree knows the group again.
          data.table.columns[1].values[row] = group;
          const chance = 1 / (1 + Math.exp(-effect * levels[group]));
          data.target.codes[row] = random.unit() < chance ? 1 : 0;
        });
      const figures = (more) => {
        const [{ metrics }] = curve(data, random, { values: { depth: 8 }, ...more });
        return { mean: metrics.roc_auc.mean, folds: metrics.roc_auc.folds, k: FOLDS };
      };
      const [free, grouped] = [figures({}), figures({ groups })];
      const [own] = curve(data, random, { values: { depth: 8 } });
      return has(
        saidOf([own], 'roc_auc', { grouping: { column: 'apiary', random: free, grouped } }),
        'grouping',
        'too good',
      );
    },
  })),
  ...[
    { situation: 'probabilities that are right, 300 rows', power: 1, most: 0.05 },
    {
      situation: 'probabilities that are right, 40 groups of ten alike rows',
      power: 1,
      alike: 0.3,
      most: 0.05,
    },
    { situation: 'odds squared, 300 rows', power: 2, least: 0.8 },
  ].map(({ power, alike = 0, ...one }) => ({
    verdict: 'Probabilities are off',
    ...one,
    once(random) {
      const n = alike > 0 ? 400 : 300;
      const groups = Int32Array.from({ length: n }, (_, row) => row % 40);
      const levels = Float64Array.from({ length: 40 }, () => normal(random));
      const odds = Float64Array.from({ length: n }, () => Math.exp(1.5 * normal(random)));
      // Rows of a group share a part of what decides them; the probability of each stays what it is.
      const truth = Int32Array.from(odds, (value, row) => {
        const own = Math.sqrt(alike) * levels[groups[row]] + Math.sqrt(1 - alike) * normal(random);
        return normalBelow(own) < value / (1 + value) ? 1 : 0;
      });
      const positive = odds.map((value) => value ** power / (1 + value ** power));
      const said = calibrationSays(
        {
          labels: ['no', 'yes'],
          truth,
          predicted: truth,
          probabilities: [positive.map((chance) => 1 - chance), positive],
          positive: 1,
          weights: null,
        },
        alike > 0 ? groups : null,
      );
      return said.outcome === 'fails';
    },
  })),
  {
    verdict: 'Beyond a depth it memorises',
    situation: 'noise, 150 rows: no depth is better than another',
    most: 0.05,
    once: (random) =>
      has(
        saidOf(
          curve(tableOf(random, 150, 0), random, { vary: [{ key: 'depth', settings: DEPTHS }] }),
          'accuracy',
        ),
        'memorises',
        'Beyond',
      ),
  },
  {
    verdict: 'Beyond a depth it memorises',
    situation: 'one feature of five, log loss, 300 rows: deep trees are worse',
    least: 0.8,
    once: (random) =>
      has(
        saidOf(
          curve(tableOf(random, 300, 2), random, { vary: [{ key: 'depth', settings: DEPTHS }] }),
          'log_loss',
        ),
        'memorises',
        'Beyond',
      ),
  },
  {
    verdict: 'One split is better or worse than the folds',
    situation: 'a validation part of a fifth of 300 rows',
    most: 0.05,
    once(random) {
      const data = tableOf(random, 300, 1);
      const rows = shuffle(indices(300), random);
      const part = (from, to) => {
        const chosen = rows.slice(from, to);
        return {
          table: {
            rowCount: chosen.length,
            columns: data.table.columns.map((c) => ({
              ...c,
              values: Float64Array.from(chosen, (r) => c.values[r]),
            })),
          },
          target: { ...data.target, codes: chosen.map((r) => data.target.codes[r]) },
        };
      };
      const settings = curve(part(0, 240), random, { values: { depth: 2 } });
      const { figures } = measureFold({
        table: data.table,
        model: modelOf('tree', { depth: 2 }),
        task: 'binary',
        targetName: 'y',
        group: null,
        target: data.target,
        features: data.table.columns.map(({ name }) => name),
        weights: null,
        seed: 0,
        vary: [],
        training: rows.slice(0, 240),
        test: rows.slice(240),
      });
      return has(
        saidOf(settings, 'accuracy', { validation: figures[0].test.accuracy.value }),
        'single',
        'One split is',
      );
    },
  },
  {
    verdict: 'More rows would help little',
    situation: 'naive Bayes on 120 rows, where twice as many still help',
    most: 0.1,
    once: (random) =>
      has(
        saidOf(
          curve(tableOf(random, 120, 1), random, {
            kind: 'naive-bayes',
            vary: [{ key: TRAINING_SHARE, settings: [25, 50, 70, 85, 100] }],
          }),
          'log_loss',
        ),
        'size',
        'little',
      ),
  },
  {
    verdict: 'More rows would help further',
    situation: 'noise, 150 rows',
    most: 0.05,
    once: (random) =>
      has(
        saidOf(
          curve(tableOf(random, 150, 0), random, {
            values: { depth: 3 },
            vary: [{ key: TRAINING_SHARE, settings: [40, 55, 70, 85, 100] }],
          }),
          'accuracy',
        ),
        'size',
        'further',
      ),
  },
  {
    verdict: 'Other metrics would choose differently',
    situation: 'noise, 150 rows',
    most: 0.05,
    once: (random) =>
      has(
        saidOf(
          curve(tableOf(random, 150, 0), random, { vary: [{ key: 'depth', settings: DEPTHS }] }),
          'accuracy',
        ),
        'metrics',
        'otherwise',
      ),
  },
  ...[150, 600].map((n) => ({
    verdict: 'A feature differs between parts',
    situation: `15 features, random parts of ${n} rows`,
    most: 0.05,
    once(random) {
      const columns = Array.from({ length: 15 }, (_, c) => ({
        kind: /** @type {const} */ ('number'),
        name: `x${c}`,
        values: Float64Array.from({ length: n }, () => normal(random)),
      }));
      const draw = (seed) => {
        const parts = new Int8Array(n);
        shuffle(indices(n), seededRandom(seed)).forEach((row, i) => (parts[row] = i < 0.8 * n ? 0 : 1));
        return parts;
      };
      const quality = splitQuality(
        { rowCount: n, columns },
        { names: ['training', 'held out'], parts: draw(1000 + random.below(1e6)) },
        { redraw: draw, apart: false },
      );
      return qualityChecks(quality, null, false).some(({ id }) => id === 'drift');
    },
  })),
  ...[15, 100, 2000].map((n) => ({
    verdict: 'Neighbouring residuals resemble one another',
    situation: `independent, ${n} rows`,
    most: 0.06,
    once: (random) =>
      has(
        residualsSay(
          diagnoseResiduals(
            Float64Array.from({ length: n }, () => normal(random)),
            [],
          ),
        ),
        'neighbours',
        'resemble one another:',
      ),
  })),
  ...[100, 2000].map((n) => ({
    verdict: 'Neighbouring residuals resemble one another',
    situation: `correlation 0.3, ${n} rows`,
    least: 0.75,
    once(random) {
      let last = 0;
      const residuals = Float64Array.from({ length: n }, () => (last = 0.3 * last + normal(random)));
      return has(residualsSay(diagnoseResiduals(residuals, [])), 'neighbours', 'resemble one another:');
    },
  })),
  ...[15, 2000].map((n) => ({
    verdict: 'On average predictions are too high or too low',
    situation: `mean 0, ${n} rows`,
    most: 0.07,
    once: (random) =>
      has(
        residualsSay(
          diagnoseResiduals(
            Float64Array.from({ length: n }, () => normal(random)),
            [],
          ),
        ),
        'mean',
        'are too',
      ),
  })),
  ...[
    { kind: 'tree', setting: 'depth', values: [1, 2, 3, 5, 8], n: 100 },
    { kind: 'tree', setting: 'depth', values: [1, 2, 3, 5, 8], n: 300 },
    { kind: 'nearest', setting: 'neighbours', values: [41, 21, 9, 3, 1], n: 200 },
  ].map(({ kind, setting, values, n }) => ({
    verdict: 'A curve that a student measured is far from such a model',
    situation: `${setting} of ${kind === 'tree' ? 'trees' : 'nearest neighbours'}, own five folds, ${n} rows`,
    most: 0.01,
    once(random) {
      const data = tableOf(random, n, 2 * random.unit());
      const vary = [{ key: setting, settings: values }];
      const own = curve(data, random, { kind, vary });
      const points = curve(data, random, { kind, vary, k: 10 }).map(({ metrics }, i) => ({
        setting: String(values[i]),
        mean: 1 - metrics.accuracy.mean,
        se: metrics.accuracy.se,
        training: 1 - metrics.accuracy.train,
      }));
      const rules = { setting, settings: values.map(String), needsErrors: true, says: '' };
      const [training, validation] = [errorsOf(own, 'train'), errorsOf(own, 'mean')];
      const run = { metric: 'error_rate', points };
      return (
        runCheck(training, validation, run, rules).outcome === 'fails' ||
        curveFaults(training, validation, run, rules).length > 0 ||
        shapeCheck(training, 0).outcome === 'fails'
      );
    },
  })),
  ...[12, 40].flatMap((groups) =>
    /** @type {const} */ (['own', 'counted', 'weighed', 'each by itself']).map((by) => ({
      verdict: 'Sizes or shares of a split by groups are off',
      situation: `${groups} groups, ${by === 'own' ? 'the splitter here' : by === 'each by itself' ? 'each group assigned by itself' : `whole groups at random, ${by}`}`,
      // A program that assigns each group by itself does not look at the sizes that are asked for.
      most: by === 'each by itself' ? 0.2 : 0.03,
      once(random) {
        const n = groups * 10;
        const units = unitsOf(
          Int32Array.from({ length: n }, () => random.below(groups)),
          null,
        );
        const strata = {
          column: 'y',
          labels: ['no', 'yes'],
          codes: Int32Array.from({ length: n }, () => random.below(2)),
          values: null,
        };
        const plan = { rows: n, shares: [0.8, 0.2], isFolds: false, strata, units, time: null };
        const bounds = boundsOf(plan);
        const assigned = by === 'own' ? ownAssignment(plan, random) : honestAssignment(plan, random, by);
        const parts = [
          { name: 'training', share: 0.8 },
          { name: 'test', share: 0.2 },
        ];
        return (
          shareCheck(assigned, parts, 1, bounds).outcome === 'fails' ||
          strataCheck(assigned, ['training', 'test'], strata, 2, bounds).outcome === 'fails'
        );
      },
    })),
  ),
  ...['rmse', 'accuracy', 'brier', 'roc_auc'].flatMap((metric) =>
    [60, 300].map((rows) => ({
      verdict: `A model is overfitted, by ${metricNamed(metric).name}`,
      situation: `as good as the reference run, and far closer to the training rows; ${rows} held-out rows`,
      most: 0.05,
      once: (random) => closeFit(random, { metric, rows }),
    })),
  ),
  {
    verdict: 'A model is overfitted, by root mean squared error',
    situation: 'as good as each of four reference runs; 300 held-out rows',
    most: 0.05,
    once: (random) => closeFit(random, { metric: 'rmse', rows: 300, references: 4 }),
  },
  ...['rmse', 'brier'].map((metric) => ({
    verdict: `A model is overfitted, by ${metricNamed(metric).name}`,
    situation: 'off by twice as much as the reference run; 300 held-out rows',
    least: 0.8,
    once: (random) => closeFit(random, { metric, rows: 300, error: 2 }),
  })),
];

/** How often each verdict is said in its situation, out of so many tries. */
export function verdictRun({ tries = 400 } = {}) {
  return VERDICTS.map(({ verdict, situation, once, most = 1, least = 0 }, place) => {
    let said = 0;
    for (let i = 0; i < tries; i++) if (once(seededRandom(1000 * place + i, 'verdicts'))) said++;
    // Three standard errors of a share of so many tries are chance.
    const slack = (share) => 3 * Math.sqrt((share * (1 - share)) / tries);
    const rate = said / tries;
    return {
      verdict,
      situation,
      rate,
      asked: least > 0 ? `at least ${Math.round(least * 100)} %` : `at most ${Math.round(most * 100)} %`,
      holds: least > 0 ? rate >= least - slack(least) : rate <= most + slack(most),
    };
  });
}
