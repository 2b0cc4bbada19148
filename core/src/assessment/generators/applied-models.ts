import { decimal, generator, askedOf, figures, whole } from './generator.js';

export const fromCoefficients = generator({
  key: 'from-coefficients',
  title: 'a prediction from coefficients',
  about:
    'What a linear and a logistic model say of one case, from their coefficients as they are shown: a sum, and 1 / (1 + e to the less of it).',
  text: 'A linear model of the honey yield of a colony has the intercept {b0}, {b1} for each frame of bees and {b2} for each mite on a hundred bees. A logistic model of survival has the intercept {a0} and, for the same two columns, {a1} and {a2}. A colony has {frames} frames of bees and {mites} mites.',
  from: 'chance',
  parameters: {
    asked: figures(
      ['predicted yield', 'log-odds of survival', 'odds of survival', 'probability of survival'],
      ['predicted yield', 'probability of survival'],
    ),
  },
  sentence: () => 'Draw coefficients and a colony, and ask for {asked}.',
  draw({ asked }, random) {
    const [b0, b1, b2] = [
      decimal(random, 2, 9, 1),
      decimal(random, 0.8, 3, 2),
      -decimal(random, 0.2, 1.5, 2),
    ];
    const [a0, a1, a2] = [
      -decimal(random, 0.5, 2.5, 2),
      decimal(random, 0.1, 0.6, 3),
      -decimal(random, 0.1, 0.6, 3),
    ];
    const [frames, mites] = [whole(random, 3, 11), whole(random, 0, 8)];
    const logOdds = a0 + a1 * frames + a2 * mites;
    return {
      given: {
        ...{ b0: String(b0), b1: String(b1), b2: String(b2), a0: String(a0), a1: String(a1), a2: String(a2) },
        frames: String(frames),
        mites: String(mites),
      },
      table: null,
      asked: askedOf(
        {
          'predicted yield': b0 + b1 * frames + b2 * mites,
          'log-odds of survival': logOdds,
          'odds of survival': Math.exp(logOdds),
          'probability of survival': 1 / (1 + Math.exp(-logOdds)),
        },
        asked,
      ),
    };
  },
});

/** Density of a normal distribution. */
const density = (x: number, mean: number, sd: number): number =>
  Math.exp(-0.5 * ((x - mean) / sd) ** 2) / (sd * Math.sqrt(2 * Math.PI));

export const normalPosterior = generator({
  key: 'normal-posterior',
  title: 'naive Bayes with normal densities',
  about:
    'Likelihoods of a value under two normal distributions, and the posterior of one class: prior times likelihood, divided by the sum of both.',
  text: 'Of the colonies {prior} % survived the winter. The weight of a survivor in autumn is normal with mean {m1} kg and standard deviation {s1} kg, that of a lost colony with mean {m2} kg and {s2} kg. A colony weighs {x} kg.',
  from: 'chance',
  parameters: {
    asked: figures(
      ['likelihood under survival', 'likelihood under loss', 'posterior of survival by weight'],
      ['likelihood under survival', 'posterior of survival by weight'],
    ),
  },
  sentence: () => 'Draw two normal distributions and a value, and ask for {asked}.',
  draw({ asked }, random) {
    const prior = 5 * whole(random, 8, 17);
    const [m1, m2] = [decimal(random, 26, 32, 1), decimal(random, 19, 25, 1)];
    const [s1, s2] = [decimal(random, 2.5, 5, 1), decimal(random, 2.5, 5, 1)];
    const x = decimal(random, 20, 31, 1);
    const [survived, lost] = [density(x, m1, s1), density(x, m2, s2)];
    const joint = (prior / 100) * survived;
    return {
      given: {
        prior: String(prior),
        ...{ m1: String(m1), s1: String(s1), m2: String(m2), s2: String(s2), x: String(x) },
      },
      table: null,
      asked: askedOf(
        {
          'likelihood under survival': survived,
          'likelihood under loss': lost,
          'posterior of survival by weight': joint / (joint + (1 - prior / 100) * lost),
        },
        asked,
        {
          workings: {
            mistaken: {
              'prior-left-out': { 'posterior of survival by weight': [survived / (survived + lost)] },
            },
          },
        },
      ),
    };
  },
});

export const weightedError = generator({
  key: 'weighted-error',
  title: 'an error with weights',
  about:
    'The share of wrong rows, each row by its weight, and the factor by which boosting in its first form weighs wrong rows up: α = ½ ln((1 − ε) / ε) (Freund and Schapire, 1997).',
  text: 'The table has {rows} colonies with the weight of each, what happened and what a model said.',
  from: 'chance',
  parameters: {
    rows: { type: 'number', label: 'rows', min: 6, max: 20, step: 1, start: 10 },
    asked: figures(
      ['error rate without weights', 'error rate with weights', 'α of boosting'],
      ['error rate without weights', 'error rate with weights'],
    ),
  },
  sentence: () => 'Draw {rows} rows with weights, and ask for {asked}.',
  draw({ rows, asked }, random) {
    const drawn = Array.from({ length: rows }, () => {
      const truth = random.below(2);
      return { weight: whole(random, 1, 5), truth, said: random.below(4) === 0 ? 1 - truth : truth };
    });
    const wrong = drawn.filter(({ truth, said }) => truth !== said);
    const sum = (of: typeof drawn) => of.reduce((all, { weight }) => all + weight, 0);
    const error = sum(wrong) / sum(drawn);
    const words = (value: number) => (value === 1 ? 'yes' : 'no');
    return {
      given: { rows: String(rows) },
      table: {
        header: ['colony', 'weight', 'survived', 'said'],
        rows: drawn.map(({ weight, truth, said }, i) => [
          String(i + 1),
          String(weight),
          words(truth),
          words(said),
        ]),
      },
      asked: askedOf(
        {
          'error rate without weights': wrong.length / rows,
          'error rate with weights': error,
          'α of boosting':
            error > 0 && error < 1
              ? { value: 0.5 * Math.log((1 - error) / error) }
              : { value: null, reason: 'no row, or every row, is wrong' },
        },
        asked,
      ),
    };
  },
});

export const dummiesDrawn = generator({
  key: 'dummies-drawn',
  title: 'columns of a design',
  about:
    'How many columns categories become: one dummy column for each value but the first. A linear model has one coefficient for each column, and the intercept.',
  text: 'A table of colonies has {numbers} columns of numbers and three categories: the breed with {a} values, the region with {b} and the type of hive with {c}. One value of each category is left out.',
  from: 'chance',
  parameters: {
    asked: figures(
      ['dummy columns', 'columns of the design', 'coefficients with the intercept'],
      ['dummy columns', 'coefficients with the intercept'],
    ),
  },
  sentence: () => 'Draw columns, and ask for {asked}.',
  draw({ asked }, random) {
    const numbers = whole(random, 2, 12);
    const [a, b, c] = [whole(random, 2, 9), whole(random, 3, 12), whole(random, 2, 6)];
    const dummies = a + b + c - 3;
    return {
      given: { numbers: String(numbers), a: String(a), b: String(b), c: String(c) },
      table: null,
      asked: askedOf(
        {
          'dummy columns': dummies,
          'columns of the design': dummies + numbers,
          'coefficients with the intercept': dummies + numbers + 1,
        },
        asked,
      ),
    };
  },
});

export const autocorrelationBand = generator({
  key: 'autocorrelation-band',
  title: 'the band of autocorrelations',
  about:
    'Half the width of the band in which chance keeps 95 % of the autocorrelations of n values without dependence, 1.96 / √n, and how many lags lie outside.',
  text: 'The residuals of {n} weighings in a row have the autocorrelations in the table. Take 1.96 / √n as half the width of the band.',
  from: 'chance',
  parameters: {
    lags: { type: 'number', label: 'lags', min: 3, max: 15, step: 1, start: 8 },
    asked: figures(
      ['half the width of the band of n', 'number of lags outside'],
      ['half the width of the band of n', 'number of lags outside'],
    ),
  },
  sentence: () => 'Draw {lags} autocorrelations, and ask for {asked}.',
  draw({ lags, asked }, random) {
    const n = whole(random, 40, 400);
    const half = 1.96 / Math.sqrt(n);
    const drawn = Array.from({ length: lags }, () => {
      const sign = random.below(2) === 1 ? 1 : -1;
      // Clearly inside or clearly outside: to the digits that are shown none lies on the edge.
      const size =
        random.below(3) === 0 ? half + decimal(random, 0.01, 0.3, 3) : half * decimal(random, 0, 0.9, 3);
      return Number((sign * size).toFixed(3));
    });
    return {
      given: { n: String(n) },
      table: {
        header: ['lag', 'autocorrelation'],
        rows: drawn.map((value, lag) => [String(lag + 1), value.toFixed(3)]),
      },
      asked: askedOf(
        {
          'half the width of the band of n': half,
          'number of lags outside': drawn.filter((value) => Math.abs(value) > half).length,
        },
        asked,
      ),
    };
  },
});
