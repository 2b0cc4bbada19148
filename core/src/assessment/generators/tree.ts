import { entropy, gini } from '../../models/tree/impurity.js';
import { decimal, generator, askedOf, figures, whole } from './generator.js';

export const treeSplit = generator({
  key: 'tree-split',
  title: 'a split of a tree',
  about:
    'Impurity of a node and of its two branches, and what the split gains: impurity less the branches’ by their shares of the rows. Entropy in bits; gain ratio is the gain in entropy over the entropy of the split itself (Quinlan, 1986).',
  text: 'A node holds {n} rows, {yes} of them “yes”. A split sends {nl} rows to the left, {yl} of them “yes”, and the rest to the right.',
  from: 'chance',
  parameters: {
    rows: { type: 'number', label: 'rows', min: 10, max: 2000, step: 1, start: 60 },
    asked: figures(
      ['Gini of the node', 'Gini gain', 'entropy of the node', 'information gain', 'gain ratio'],
      ['Gini of the node', 'information gain'],
    ),
  },
  sentence: () => 'Draw a node of about {rows} rows and its split, and ask for {asked}.',
  draw({ rows, asked }, random) {
    const nl = whole(random, Math.ceil(rows * 0.25), Math.floor(rows * 0.6));
    const nr = Math.max(4, rows - nl + whole(random, -2, 2));
    const yl = whole(random, Math.ceil(nl * 0.55), nl);
    const yr = whole(random, 0, Math.floor(nr * 0.45));
    const n = nl + nr;
    const gain = (impurity: typeof gini) =>
      impurity([yl + yr, n - yl - yr], n) -
      (nl / n) * impurity([yl, nl - yl], nl) -
      (nr / n) * impurity([yr, nr - yr], nr);
    return {
      given: {
        n: String(n),
        yes: String(yl + yr),
        nl: String(nl),
        yl: String(yl),
        nr: String(nr),
        yr: String(yr),
      },
      table: null,
      asked: askedOf(
        {
          'Gini of the node': gini([yl + yr, n - yl - yr], n),
          'Gini gain': gain(gini),
          'entropy of the node': entropy([yl + yr, n - yl - yr], n),
          'information gain': gain(entropy),
          'gain ratio': gain(entropy) / entropy([nl, nr], n),
        },
        asked,
        {
          workings: {
            mistaken: {
              'gini-for-entropy': {
                'entropy of the node': [gini([yl + yr, n - yl - yr], n)],
                'information gain': [gain(gini)],
                'gain ratio': [gain(gini) / entropy([nl, nr], n), gain(gini) / gini([nl, nr], n)],
              },
            },
          },
        },
      ),
    };
  },
});

export const pruning = generator({
  key: 'pruning',
  title: 'cost-complexity pruning',
  about:
    'The cost of a tree is its error plus α for each leaf. A branch is cut where its weakest link, (error of the node as a leaf − error of the branch) over (leaves − 1), is at most α (Breiman and others, 1984, chapter 3).',
  text: 'A branch of a tree has {leaves} leaves and misses {branch} of {n} rows. As a leaf, its node would miss {node}. Let α be {alpha}; errors are shares of the {n} rows.',
  from: 'chance',
  parameters: {
    asked: figures(
      ['cost of the branch', 'cost of the node as a leaf', 'α at which the branch is cut'],
      ['cost of the branch', 'α at which the branch is cut'],
    ),
  },
  sentence: () => 'Draw a branch of a tree, and ask for {asked}.',
  draw({ asked }, random) {
    const leaves = whole(random, 3, 9);
    const n = 20 * whole(random, 5, 30);
    const branch = whole(random, 4, Math.floor(n / 8));
    const node = branch + whole(random, leaves, Math.max(leaves + 2, Math.floor(n / 6)));
    const alpha = decimal(random, 0.002, 0.03, 3);
    return {
      given: {
        leaves: String(leaves),
        n: String(n),
        branch: String(branch),
        node: String(node),
        alpha: String(alpha),
      },
      table: null,
      asked: askedOf(
        {
          'cost of the branch': branch / n + alpha * leaves,
          'cost of the node as a leaf': node / n + alpha,
          'α at which the branch is cut': (node - branch) / n / (leaves - 1),
        },
        asked,
      ),
    };
  },
});

export const bayes = generator({
  key: 'bayes',
  title: 'a naive Bayes posterior',
  about:
    'Counts of two yes-or-no features in each class. Chances with Laplace correction: (count + l) over (rows + 2 l) of a feature, shares of the classes without it; the posterior is their product, divided by the sum over the classes (scikit-learn, CategoricalNB).',
  text: 'Of {n} colonies {a} survived and {b} were lost. Of those that survived {fa} had a young queen and {ga} stood in the shade; of those lost, {fb} and {gb}. A colony has a young queen and stands in the shade. Use a Laplace correction of {laplace}.',
  from: 'chance',
  parameters: {
    laplace: { type: 'number', label: 'Laplace correction', min: 0, max: 10, start: 1 },
    asked: figures(
      ['posterior of survival', 'chance of a young queen given survival', 'prior of survival'],
      ['posterior of survival'],
    ),
  },
  sentence: () =>
    'Draw counts of two features in two classes, correct them by {laplace}, and ask for {asked}.',
  draw({ laplace, asked }, random) {
    const [a, b] = [whole(random, 12, 40), whole(random, 8, 30)];
    const [fa, ga] = [whole(random, 3, a - 2), whole(random, 3, a - 2)];
    const [fb, gb] = [whole(random, laplace > 0 ? 0 : 1, b - 2), whole(random, 1, b - 2)];
    const n = a + b;
    const chance = (hits: number, of: number, l = laplace) => (hits + l) / (of + 2 * l);
    const posterior = (l: number, [yes, no] = [a / n, b / n]) => {
      const survived = yes * chance(fa, a, l) * chance(ga, a, l);
      return survived / (survived + no * chance(fb, b, l) * chance(gb, b, l));
    };
    return {
      given: Object.fromEntries(
        Object.entries({ n, a, b, fa, ga, fb, gb, laplace }).map(([key, value]) => [key, String(value)]),
      ),
      table: null,
      asked: askedOf(
        {
          'posterior of survival': posterior(laplace),
          'chance of a young queen given survival': chance(fa, a),
          'prior of survival': a / n,
        },
        asked,
        {
          workings: {
            mistaken: {
              'no-laplace': {
                'posterior of survival': [posterior(0)],
                'chance of a young queen given survival': [chance(fa, a, 0)],
              },
              'prior-left-out': { 'posterior of survival': [posterior(laplace, [1, 1])] },
            },
          },
        },
      ),
    };
  },
});
