"""Figures of drawn questions, computed from what the student is shown (given and table) and from nothing else.

Reads the draws that draws.json holds (made by this project under fixed seeds) and writes what each figure comes to by
scikit-learn, SciPy, statsmodels and numpy, or by the textbook formula named beside it.

Debian: apt-get install python3-sklearn python3-statsmodels
Run:    /usr/bin/python3 draws.py < draws.json > draws.new && mv draws.new draws.json
"""
import json, sys
import numpy as np, scipy, sklearn, statsmodels
from scipy import stats
from sklearn import metrics as m
from statsmodels.stats.contingency_tables import mcnemar
from statsmodels.stats.stattools import durbin_watson

num = lambda text: float(text.replace(',', ''))


def labels(truth, predicted):
    tn, fp, fn, tp = m.confusion_matrix(truth, predicted, labels=[0, 1]).ravel()
    return {'accuracy': m.accuracy_score(truth, predicted), 'balanced accuracy': m.balanced_accuracy_score(truth, predicted),
            'error rate': 1 - m.accuracy_score(truth, predicted), 'precision': m.precision_score(truth, predicted),
            'recall (sensitivity)': m.recall_score(truth, predicted), 'specificity': m.recall_score(truth, predicted, pos_label=0),
            'negative predictive value': m.precision_score(truth, predicted, pos_label=0),
            'false-positive rate': fp / (fp + tn), 'false-negative rate': fn / (fn + tp),
            'F1': m.f1_score(truth, predicted), 'Jaccard index': m.jaccard_score(truth, predicted),
            'Cohen’s kappa': m.cohen_kappa_score(truth, predicted), 'Matthews correlation': m.matthews_corrcoef(truth, predicted),
            'true positives': tp, 'false positives': fp, 'true negatives': tn, 'false negatives': fn}


def confusion(g, table):
    positive, negative, tp, tn = (int(num(g[k])) for k in ('positive', 'negative', 'tp', 'tn'))
    truth = [1] * positive + [0] * negative
    return labels(truth, [1] * tp + [0] * (positive - tp) + [0] * tn + [1] * (negative - tn))


def column(table, name, of=float):
    i = table['header'].index(name)
    return np.array([of(row[i]) for row in table['rows']])


yes = lambda text: int(text == 'yes')


def probabilities(g, table):
    truth, p = column(table, 'truth', yes), column(table, 'probability')
    return {**labels(truth, (p >= num(g['threshold'])).astype(int)), 'area under the ROC curve': m.roc_auc_score(truth, p),
            'average precision': m.average_precision_score(truth, p), 'log loss': m.log_loss(truth, p), 'Brier score': m.brier_score_loss(truth, p)}


def numbers(g, table):
    t, p = column(table, 'truth'), column(table, 'prediction')
    return {'root mean squared error': np.sqrt(m.mean_squared_error(t, p)), 'mean absolute error': m.mean_absolute_error(t, p),
            'median absolute error': m.median_absolute_error(t, p), 'mean squared error': m.mean_squared_error(t, p),
            'mean absolute percentage error': m.mean_absolute_percentage_error(t, p), 'R²': m.r2_score(t, p),
            'explained variance': m.explained_variance_score(t, p), 'maximum error': m.max_error(t, p), 'mean error': np.mean(p - t),
            'Durbin–Watson statistic': durbin_watson(t - p)}


def roc_points(g, table):
    f, t = column(table, 'false-positive rate'), column(table, 'true-positive rate')
    return {'area under the curve': m.auc(f, t), 'largest Youden index': np.max(t - f),
            'threshold of the largest Youden index': column(table, 'threshold')[np.argmax(t - f)]}


def agreement(g, table):
    t, a, b = (column(table, name, yes) for name in ('truth', 'first', 'second'))
    right = [[np.sum((a == t) & (b == t)), np.sum((a == t) & (b != t))], [np.sum((a != t) & (b == t)), np.sum((a != t) & (b != t))]]
    return {'agreement': np.mean(a == b), 'rows that differ': np.sum(a != b), 'kappa of the two': m.cohen_kappa_score(a, b),
            'McNemar p': mcnemar(right, exact=True).pvalue}


def split_sizes(g, table):
    n, positive, share = num(g['n']), num(g['positive']) / 100, num(g['share']) / 100
    return {'training rows': n * (1 - share), 'test rows': n * share, 'positive training rows': n * (1 - share) * positive,
            'positive test rows': n * share * positive}


def summary(g, table):
    v = np.array([float(x) for x in g['list'].split(', ')])
    q1, q2, q3 = np.quantile(v, [.25, .5, .75])
    return {'mean': v.mean(), 'median': q2, 'standard deviation': v.std(ddof=1), 'lower quartile': q1, 'upper quartile': q3,
            'interquartile range': stats.iqr(v), 'skewness': stats.skew(v, bias=False)}


def fold_scores(g, table):
    v = column(table, 'accuracy')
    return {'mean': v.mean(), 'standard deviation': v.std(ddof=1), 'standard error': stats.sem(v), 'lowest': v.min(), 'highest': v.max()}


def settings_table(g, table):      # Breiman and others (1984), 3.4.3
    d, mean, se, train = (column(table, name) for name in ('depth', 'mean accuracy', 'standard error', 'training accuracy'))
    best = int(np.argmax(mean))
    return {'best depth': d[best], 'simplest depth within one standard error': d[np.flatnonzero(mean >= mean[best] - se[best])[0]],
            'training errors at the best depth': 1 - train[best]}


def grid_fits(g, table):
    from sklearn.model_selection import ParameterGrid
    grid = len(ParameterGrid({'a': range(int(g['a'])), 'b': range(int(g['b']))}))
    return {'fits': grid * int(g['k']), 'fits with the refit': grid * int(g['k']) + 1, 'rows of each test fold': float(g['n']) / float(g['k'])}


def tree_split(g, table):
    n, y, nl, yl = (float(g[k]) for k in ('n', 'yes', 'nl', 'yl'))
    nr, yr = n - nl, y - yl
    h = lambda a, b: stats.entropy([a, b], base=2)
    gini = lambda a, b: 1 - (a / (a + b)) ** 2 - (b / (a + b)) ** 2
    gain = lambda f: f(y, n - y) - nl / n * f(yl, nl - yl) - nr / n * f(yr, nr - yr)
    return {'Gini of the node': gini(y, n - y), 'Gini gain': gain(gini), 'entropy of the node': h(y, n - y),
            'information gain': gain(h), 'gain ratio': gain(h) / h(nl, nr)}


def pruning(g, table):             # Breiman and others (1984), chapter 3
    leaves, n, branch, node, alpha = (float(g[k]) for k in ('leaves', 'n', 'branch', 'node', 'alpha'))
    return {'cost of the branch': branch / n + alpha * leaves, 'cost of the node as a leaf': node / n + alpha,
            'α at which the branch is cut': (node / n - branch / n) / (leaves - 1)}


def bayes(g, table):
    """CategoricalNB on rows that have these counts."""
    from sklearn.naive_bayes import CategoricalNB
    a, b, fa, ga, fb, gb = (int(g[k]) for k in ('a', 'b', 'fa', 'ga', 'fb', 'gb'))
    f = [1] * fa + [0] * (a - fa) + [1] * fb + [0] * (b - fb)
    q = [1] * ga + [0] * (a - ga) + [1] * gb + [0] * (b - gb)
    fit = CategoricalNB(alpha=float(g['laplace'])).fit(np.c_[f, q], [1] * a + [0] * b)
    return {'posterior of survival': fit.predict_proba([[1, 1]])[0, 1],
            'chance of a young queen given survival': np.exp(fit.feature_log_prob_[0][1, 1]), 'prior of survival': a / (a + b)}


def inference(g, table):
    c, unit, n, p, total, residual, r2 = (float(g[k]) for k in ('coefficient', 'unit', 'n', 'p', 'total', 'residual', 'r2'))
    ms = residual / (n - p - 1)
    return {'odds ratio': np.exp(c), 'odds ratio for more units': np.exp(c) ** unit, 'variance inflation': 1 / (1 - r2), 'R²': (total - residual) / total,
            'adjusted R²': 1 - ms / (total / (n - 1)), 'F': (total - residual) / p / ms, 'residual standard error': np.sqrt(ms)}


def screened_column(g, table):
    """SelectKBest with the share that is right as its score, in a pipeline over the folds and before them."""
    from sklearn.feature_selection import SelectKBest
    from sklearn.model_selection import PredefinedSplit
    x = np.array([[int(cell) for cell in row[1:-1]] for row in table['rows']])
    y, fold = column(table, 'lost', int), column(table, 'fold', int)
    right = lambda a, b: (a == b[:, None]).mean(0) - 1e-9 * np.arange(a.shape[1])
    chosen = lambda rows: SelectKBest(right, k=1).fit(x[rows], y[rows]).transform(x)[:, 0]
    outside = m.accuracy_score(y, chosen(np.arange(len(y))))
    inside = np.concatenate([chosen(train)[test] == y[test] for train, test in PredefinedSplit(fold).split()]).mean()
    return {'accuracy, column chosen on all rows': outside, 'accuracy, column chosen inside each fold': inside,
            'by how much the first is too high': outside - inside}


def from_coefficients(g, table):
    from scipy.special import expit
    x = np.array([1, num(g['frames']), num(g['mites'])])
    b, a = (np.array([float(g[f'{k}{i}']) for i in range(3)]) for k in 'ba')
    return {'predicted yield': x @ b, 'log-odds of survival': x @ a, 'odds of survival': np.exp(x @ a), 'probability of survival': expit(x @ a)}


def normal_posterior(g, table):
    prior, m1, s1, m2, s2, x = (float(g[k]) for k in ('prior', 'm1', 's1', 'm2', 's2', 'x'))
    a, b = stats.norm.pdf(x, m1, s1), stats.norm.pdf(x, m2, s2)
    return {'likelihood under survival': a, 'likelihood under loss': b,
            'posterior of survival by weight': np.average([1, 0], weights=[prior * a, (100 - prior) * b])}


def weighted_error(g, table):      # α: Freund and Schapire (1997)
    w, t, p = column(table, 'weight'), column(table, 'survived', yes), column(table, 'said', yes)
    e = m.zero_one_loss(t, p, sample_weight=w)
    return {'error rate without weights': m.zero_one_loss(t, p), 'error rate with weights': e, 'α of boosting': -0.5 * np.log(e / (1 - e))}


def dummies_drawn(g, table):
    from sklearn.preprocessing import OneHotEncoder
    levels = [int(g[k]) for k in 'abc']
    x = np.array([[i % n for n in levels] for i in range(np.lcm.reduce(levels))])
    dummies = OneHotEncoder(drop='first').fit_transform(x).shape[1]
    return {'dummy columns': dummies, 'columns of the design': dummies + int(g['numbers']), 'coefficients with the intercept': dummies + int(g['numbers']) + 1}


def autocorrelation_band(g, table):
    half = 1.96 / np.sqrt(float(g['n']))
    return {'half the width of the band of n': half, 'number of lags outside': np.sum(np.abs(column(table, 'autocorrelation')) > half)}


OF = {'confusion': confusion, 'probabilities': probabilities, 'numbers': numbers, 'roc-points': roc_points, 'agreement': agreement,
      'split-sizes': split_sizes, 'summary': summary, 'fold-scores': fold_scores, 'settings-table': settings_table, 'grid-fits': grid_fits, 'screened-column': screened_column,
      'tree-split': tree_split, 'pruning': pruning, 'bayes': bayes, 'inference': inference,
      'from-coefficients': from_coefficients, 'normal-posterior': normal_posterior, 'weighted-error': weighted_error,
      'dummies-drawn': dummies_drawn, 'autocorrelation-band': autocorrelation_band}
draws = json.load(sys.stdin)['draws']
for draw in draws:
    found = OF[draw['kind']](draw['given'], draw['table'])
    draw['expected'] = {name: float(found[name]) for name in draw['asked']}
json.dump({'versions': {lib.__name__: lib.__version__ for lib in (np, scipy, sklearn, statsmodels)}, 'draws': draws}, sys.stdout, indent=1)
