"""What columns do in a model, on open data: permutation importance on held-out rows, and partial dependence.

Debian: apt-get install python3-sklearn
Run:    /usr/bin/python3 columns.py > columns.json
"""
import json
import numpy as np, sklearn
from sklearn import datasets
from sklearn.inspection import partial_dependence, permutation_importance
from sklearn.linear_model import LinearRegression
from sklearn.naive_bayes import GaussianNB
from sklearn.tree import DecisionTreeRegressor

diabetes, iris = datasets.load_diabetes(), datasets.load_iris()


def importance(make, data, scoring):
    """Over five folds (row number modulo 5), the mean of 100 shuffles in each, and their deviation over all folds."""
    x, y = data.data, data.target
    fold = np.arange(len(y)) % 5
    means, deviations = [], []
    for k in range(5):
        model = make().fit(x[fold != k], y[fold != k])
        found = permutation_importance(model, x[fold == k], y[fold == k], scoring=scoring, n_repeats=100,
                                       random_state=k)
        means.append(found.importances_mean)
        deviations.append(found.importances_std)
    # The deviation of a mean over five folds with thirty shuffles in each, the models being the same.
    return {'mean': np.mean(means, axis=0).tolist(),
            'deviation': (np.sqrt(np.mean(np.square(deviations), axis=0) / 150)).tolist()}


def dependence(model, data, columns, places, step=None):
    """Columns of few values are followed at each of them: `step` rounds them."""
    x = data.data if step is None else np.round(data.data / step) * step
    found = partial_dependence(model.fit(x, data.target), x, columns, grid_resolution=places,
                               percentiles=(0.05, 0.95), kind='average', method='brute')
    return {'columns': [data.feature_names[c] for c in columns], 'values': [v.tolist() for v in found['values']],
            'mean': found['average'].reshape(found['average'].shape[0], -1).tolist()}


json.dump({
    'source': f'scikit-learn {sklearn.__version__}',
    'importance': {
        'linear': importance(LinearRegression, diabetes, 'neg_mean_squared_error'),
        'tree': importance(lambda: DecisionTreeRegressor(max_depth=3, min_samples_leaf=5, random_state=0), diabetes,
                           'neg_mean_squared_error'),
        'naive-bayes': importance(GaussianNB, iris, 'accuracy'),
    },
    'dependence': {
        'linear': [dependence(LinearRegression(), diabetes, columns, places, 0.025)
                   for columns, places in (([2], 24), ([1], 24), ([2, 8], 13))],
        'tree': [dependence(DecisionTreeRegressor(max_depth=4, min_samples_leaf=5, random_state=0), diabetes, columns, places, 0.025)
                 for columns, places in (([2], 24), ([8], 24), ([2, 8], 13))],
        'naive-bayes': [dependence(GaussianNB(), iris, columns, places)
                        for columns, places in (([2], 24), ([2, 3], 12))],
    },
}, __import__('sys').stdout)
