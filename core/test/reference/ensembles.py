"""Scores of forests and boosting over five folds (row number modulo 5) on open data, for twelve seeds each. Boosting draws
nothing at random: there a seed puts the columns in another order, by which equally good splits are chosen among.

Debian: apt-get install python3-sklearn
Run:    /usr/bin/python3 ensembles.py > ensembles.json
"""
import json, sys
import numpy as np, sklearn
from sklearn import datasets
from sklearn.ensemble import (ExtraTreesClassifier, ExtraTreesRegressor, HistGradientBoostingClassifier,
                              HistGradientBoostingRegressor, RandomForestClassifier, RandomForestRegressor)
from sklearn.metrics import accuracy_score, log_loss, mean_squared_error

DATA = {'wine': datasets.load_wine(return_X_y=True), 'breast-cancer': datasets.load_breast_cancer(return_X_y=True),
        'diabetes': datasets.load_diabetes(return_X_y=True)}
SEEDS = range(100, 112)


def forest(numbers, values, seed):
    columns = values.get('features_per_split')
    options = dict(n_estimators=values.get('trees', 100), min_samples_leaf=values.get('rows_per_leaf', 1),
                   random_state=seed)
    if columns:
        options['max_features'] = columns
    if values.get('rows') == 'all':
        options['bootstrap'] = False
    else:
        options.update(bootstrap=True, oob_score=True)
    if values.get('thresholds') == 'random':
        return (ExtraTreesRegressor if numbers else ExtraTreesClassifier)(**options)
    return (RandomForestRegressor if numbers else RandomForestClassifier)(**options)


def boosting(numbers, values, seed):
    options = dict(max_iter=values.get('rounds', 100), learning_rate=values.get('learning_rate', 0.1),
                   max_leaf_nodes=values.get('leaves', 31), min_samples_leaf=values.get('rows_per_leaf', 20),
                   l2_regularization=values.get('penalty', 0), early_stopping=False, random_state=seed)
    return (HistGradientBoostingRegressor if numbers else HistGradientBoostingClassifier)(**options)


def out_of_bag(model, y):
    if hasattr(model, 'oob_decision_function_'):
        return float(np.mean(model.classes_[model.oob_decision_function_.argmax(1)] != y))
    return float(np.mean((model.oob_prediction_ - y) ** 2))


def run(data, family, values):
    X, y = DATA[data]
    numbers = data == 'diabetes'
    fold = np.arange(len(y)) % 5
    out = dict(data=data, family=family, values=values, scores=[], out_of_bag=[])
    if not numbers:
        out['log_loss'] = []
    for seed in SEEDS:
        X = DATA[data][0]
        if family == 'boosting':
            X = X[:, np.random.default_rng(seed).permutation(X.shape[1])]
        scores, losses = [], []
        for k in range(5):
            model = (forest if family == 'forest' else boosting)(numbers, values, seed).fit(X[fold != k], y[fold != k])
            said = model.predict(X[fold == k])
            scores.append((mean_squared_error if numbers else accuracy_score)(y[fold == k], said))
            if not numbers:
                losses.append(log_loss(y[fold == k], model.predict_proba(X[fold == k]), labels=np.unique(y)))
        out['scores'].append(float(np.mean(scores)))
        if not numbers:
            out['log_loss'].append(float(np.mean(losses)))
        if family == 'forest' and values.get('rows') != 'all':
            out['out_of_bag'].append(out_of_bag(forest(numbers, values, seed).fit(X, y), y))
    return out


runs = []
for data in DATA:
    runs += [run(data, 'forest', {}), run(data, 'forest', {'rows_per_leaf': 5, 'features_per_split': 2}),
             run(data, 'forest', {'thresholds': 'random', 'rows': 'all'}),
             run(data, 'boosting', {}), run(data, 'boosting', {'rounds': 40, 'leaves': 4, 'rows_per_leaf': 5, 'penalty': 1})]
json.dump(dict(versions=dict(sklearn=sklearn.__version__, python=sys.version.split()[0]), runs=runs), sys.stdout)
