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


def confusion_classes(g, table):
    names = table['header'][1:]
    truth, predicted = [], []
    for i, row in enumerate(table['rows']):
        for j, n in enumerate(row[1:]):
            truth += [i] * int(n)
            predicted += [j] * int(n)
    assert len(truth) == int(num(g['n'])) and len(names) == len(table['rows'])
    average = {f'{of} {name}': score(truth, predicted, average=of) for of in ('macro', 'micro', 'weighted')
               for name, score in (('precision', m.precision_score), ('recall', m.recall_score), ('F1', m.f1_score))}
    return {'accuracy': m.accuracy_score(truth, predicted), 'error rate': 1 - m.accuracy_score(truth, predicted),
            'balanced accuracy': m.balanced_accuracy_score(truth, predicted), **average,
            'Cohen’s kappa': m.cohen_kappa_score(truth, predicted), 'Matthews correlation': m.matthews_corrcoef(truth, predicted)}


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


def fold_counts(g, table):
    rows, right = column(table, 'rows'), column(table, 'right')
    scores = right / rows
    return {'mean of the folds': np.mean(scores), 'standard error of the folds': stats.sem(scores), 'share of all rows': right.sum() / rows.sum()}


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


# What known mistakes would give, by the slip and the figure, of what the student is shown and of nothing else.
def binary_slips(truth, predicted):
    truth, predicted = np.asarray(truth), np.asarray(predicted)
    right, other = labels(truth, predicted), labels(1 - truth, 1 - predicted)
    turned = labels(predicted, truth)
    p, r = right['precision'], right['recall (sensitivity)']
    return {'precision-recall-exchanged': {'precision': r, 'recall (sensitivity)': p}, 'specificity-for-recall': {'recall (sensitivity)': right['specificity']},
            'other-class-positive': {name: other[name] for name in ('precision', 'F1', 'Jaccard index')},
            'matrix-transposed': {name: turned[name] for name in ('precision', 'specificity', 'balanced accuracy', 'false positives')},
            'error-for-accuracy': {'accuracy': right['error rate']}, 'accuracy-for-balanced': {'balanced accuracy': right['accuracy']},
            'f1-arithmetic-mean': {'F1': (p + r) / 2}, 'kappa-without-chance': {'Cohen’s kappa': right['accuracy']},
            'percent-for-fraction': {'accuracy': 100 * right['accuracy']}, 'npv-for-precision': {'precision': right['negative predictive value']},
            'false-positive-rate-for-specificity': {'specificity': right['false-positive rate']}}


def confusion_slips(g, table):
    positive, negative, tp, tn = (int(num(g[k])) for k in ('positive', 'negative', 'tp', 'tn'))
    return binary_slips([1] * positive + [0] * negative, [1] * tp + [0] * (positive - tp) + [0] * tn + [1] * (negative - tn))


def classes_slips(g, table):
    right = confusion_classes(g, table)
    names = ('precision', 'recall', 'F1')
    return {'macro-micro-exchanged': {**{f'macro {n}': right[f'micro {n}'] for n in names}, **{f'micro {n}': right[f'macro {n}'] for n in names}},
            'weighted-for-macro': {f'macro {n}': right[f'weighted {n}'] for n in names}, 'accuracy-for-balanced': {'balanced accuracy': right['accuracy']},
            'kappa-without-chance': {'Cohen’s kappa': right['accuracy']}, 'precision-recall-exchanged': {'macro precision': right['macro recall']}}


def probabilities_slips(g, table):
    truth, p = column(table, 'truth', yes), column(table, 'probability')
    named = (p >= num(g['threshold'])).astype(int)
    return {'area-from-labels': {'area under the ROC curve': m.roc_auc_score(truth, named)},
            'area-reversed': {'area under the ROC curve': m.roc_auc_score(truth, 1 - p)},
            'log-loss-base-2': {'log loss': -np.mean(np.log2(np.where(truth == 1, p, 1 - p)))},
            'log-loss-base-10': {'log loss': -np.mean(np.log10(np.where(truth == 1, p, 1 - p)))},
            'precision-recall-exchanged': {'precision': m.recall_score(truth, named)}}


def numbers_slips(g, table):
    t, p, features, mean = column(table, 'truth'), column(table, 'prediction'), int(g['features']), float(g['mean'])
    n, sse, r2 = len(t), ((t - p) ** 2).sum(), m.r2_score(t, p)
    return {'mse-for-rmse': {'root mean squared error': m.mean_squared_error(t, p)}, 'rmse-for-mse': {'mean squared error': np.sqrt(m.mean_squared_error(t, p))},
            'mae-for-rmse': {'root mean squared error': m.mean_absolute_error(t, p)}, 'divided-by-n-minus-1': {'root mean squared error': np.sqrt(sse / (n - 1))},
            'divided-by-n-minus-p': {'root mean squared error': np.sqrt(sse / (n - features - 1)), 'mean squared error': sse / (n - features)},
            'correlation-for-r2': {'R²': stats.pearsonr(t, p)[0]}, 'squared-correlation-for-r2': {'R²': stats.pearsonr(t, p)[0] ** 2},
            'adjusted-r2': {'R²': 1 - (1 - r2) * (n - 1) / (n - features - 1)}, 'r2-against-training-mean': {'R²': 1 - sse / ((t - mean) ** 2).sum()},
            'sign-of-error': {'mean error': np.mean(t - p)}, 'factor-1000': {'root mean squared error': 1000 * np.sqrt(sse / n)},
            'logarithm': {'root mean squared error': np.sqrt(m.mean_squared_error(np.log(t), np.log(p))), 'mean absolute error': m.mean_absolute_error(np.log1p(t), np.log1p(p))}}


def fold_score_slips(g, table):
    scores = column(table, 'accuracy')
    return {'deviation-for-standard-error': {'standard error': np.std(scores, ddof=1)},
            'population-deviation': {'standard deviation': np.std(scores), 'standard error': np.std(scores) / np.sqrt(len(scores))},
            'best-fold-for-mean': {'mean': scores.max()}, 'single-split-for-mean': {'mean': scores[0]}}


def fold_count_slips(g, table):
    rows, right = column(table, 'rows'), column(table, 'right')
    return {'pooled-for-mean': {'mean of the folds': right.sum() / rows.sum()}, 'best-fold-for-mean': {'mean of the folds': (right / rows).max()}}


def grid_slips(g, table):
    a, b, k = (int(g[x]) for x in ('a', 'b', 'k'))
    return {'fits-added-not-multiplied': {'fits': (a + b) * k}}


def inference_slips(g, table):
    b, unit, r2 = (float(g[x]) for x in ('coefficient', 'unit', 'r2'))
    n, p, total, residual = (float(g[x]) for x in ('n', 'p', 'total', 'residual'))
    fit = 1 - residual / total
    return {'log-odds-for-odds-ratio': {'odds ratio': b, 'odds ratio for more units': b * unit}, 'odds-ratio-other-unit': {'odds ratio for more units': np.exp(b)},
            'tolerance-for-vif': {'variance inflation': 1 - r2}, 'r2-for-vif': {'variance inflation': r2}, 'correlation-for-r2': {'R²': np.sqrt(fit)},
            'adjusted-r2': {'R²': 1 - (1 - fit) * (n - 1) / (n - p - 1)}, 'divided-by-n-minus-p': {'residual standard error': np.sqrt(residual / (n - p))}}


def summary_slips(g, table):
    x = np.array([float(v) for v in g['list'].split(', ')])
    found = {'population-deviation': {'standard deviation': np.std(x)}}
    for method in ('weibull', 'median_unbiased', 'hazen', 'averaged_inverted_cdf', 'inverted_cdf'):
        found[f'quantile-other-type {method}'] = {'lower quartile': np.quantile(x, 0.25, method=method), 'interquartile range': np.subtract(*np.quantile(x, [0.75, 0.25], method=method))}
    return found


def agreement_slips(g, table):
    truth, first, second = (column(table, name, yes) for name in ('truth', 'first', 'second'))
    b, c = ((first == truth) & (second != truth)).sum(), ((first != truth) & (second == truth)).sum()
    return {'kappa-without-chance': {'kappa of the two': np.mean(first == second)}, 'one-sided-p': {'McNemar p': stats.binomtest(min(b, c), b + c).pvalue / 2}}


def tree_slips(g, table):
    n, y, nl, yl, nr, yr = (int(g[x]) for x in ('n', 'yes', 'nl', 'yl', 'nr', 'yr'))
    gini = lambda k, of: 1 - (k / of) ** 2 - (1 - k / of) ** 2
    return {'gini-for-entropy': {'entropy of the node': gini(y, n), 'information gain': gini(y, n) - nl / n * gini(yl, nl) - nr / n * gini(yr, nr)}}


def bayes_slips(g, table):
    a, b, fa, ga, fb, gb, laplace = (float(g[x]) for x in ('a', 'b', 'fa', 'ga', 'fb', 'gb', 'laplace'))
    chance = lambda hits, of, l: (hits + l) / (of + 2 * l)
    plain = a / (a + b) * fa / a * ga / a, b / (a + b) * fb / b * gb / b
    flat = chance(fa, a, laplace) * chance(ga, a, laplace), chance(fb, b, laplace) * chance(gb, b, laplace)
    return {'no-laplace': {'posterior of survival': plain[0] / sum(plain), 'chance of a young queen given survival': fa / a},
            'prior-left-out': {'posterior of survival': flat[0] / sum(flat)}}


SLIPS = {'confusion': confusion_slips, 'confusion-classes': classes_slips, 'probabilities': probabilities_slips, 'numbers': numbers_slips, 'fold-scores': fold_score_slips,
         'fold-counts': fold_count_slips, 'grid-fits': grid_slips, 'inference': inference_slips, 'summary': summary_slips, 'agreement': agreement_slips,
         'tree-split': tree_slips, 'bayes': bayes_slips}

OF = {'confusion': confusion, 'probabilities': probabilities, 'numbers': numbers, 'roc-points': roc_points, 'agreement': agreement,
      'split-sizes': split_sizes, 'summary': summary, 'fold-scores': fold_scores, 'fold-counts': fold_counts, 'confusion-classes': confusion_classes, 'settings-table': settings_table, 'grid-fits': grid_fits, 'screened-column': screened_column,
      'tree-split': tree_split, 'pruning': pruning, 'bayes': bayes, 'inference': inference,
      'from-coefficients': from_coefficients, 'normal-posterior': normal_posterior, 'weighted-error': weighted_error,
      'dummies-drawn': dummies_drawn, 'autocorrelation-band': autocorrelation_band}
draws = json.load(sys.stdin)['draws']
for draw in draws:
    found = OF[draw['kind']](draw['given'], draw['table'])
    draw['expected'] = {name: float(found[name]) for name in draw['asked']}
    if draw['kind'] in SLIPS:
        slips = SLIPS[draw['kind']](draw['given'], draw['table'])
        draw['slips'] = [{'slip': slip.split()[0], 'figure': figure, 'value': float(value)} for slip, of in slips.items() for figure, value in of.items()]
json.dump({'versions': {lib.__name__: lib.__version__ for lib in (np, scipy, sklearn, statsmodels)}, 'draws': draws}, sys.stdout, indent=1)
