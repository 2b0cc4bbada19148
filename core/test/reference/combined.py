"""Models combined: means and votes of models that draw nothing at random, weights by a general-purpose minimiser, and scores
and out-of-bag errors of bagging for twelve seeds. Rows of fold 0 (row number modulo 5) are predicted from the others.

Debian: apt-get install python3-sklearn python3-scipy
Run:    /usr/bin/python3 combined.py > combined.json
"""
import json, sys
import numpy as np, scipy, sklearn
from scipy.optimize import minimize
from sklearn import datasets
from sklearn.dummy import DummyClassifier, DummyRegressor
from sklearn.ensemble import BaggingClassifier, BaggingRegressor, VotingClassifier, VotingRegressor
from sklearn.linear_model import LinearRegression
from sklearn.metrics import accuracy_score, mean_squared_error
from sklearn.neighbors import KNeighborsClassifier, KNeighborsRegressor
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import StandardScaler
from sklearn.tree import DecisionTreeClassifier, DecisionTreeRegressor

wine = datasets.load_wine(return_X_y=True)
diabetes = datasets.load_diabetes(return_X_y=True, scaled=False)
SEEDS = range(100, 112)


def parts(X, y):
    fold = np.arange(len(y)) % 5
    return X[fold != 0], y[fold != 0], X[fold == 0]


def near(numbers, **options):
    return make_pipeline(StandardScaler(), (KNeighborsRegressor if numbers else KNeighborsClassifier)(**options))


X, y, rows = parts(*wine)
classes = [('a', near(False, n_neighbors=5)), ('b', near(False, n_neighbors=25, weights='distance')),
           ('c', DummyClassifier(strategy='prior'))]
soft = VotingClassifier(classes, voting='soft').fit(X, y).predict_proba(rows)
hard = VotingClassifier(classes, voting='hard').fit(X, y)
votes = np.mean([np.eye(3)[one.predict(rows)] for one in hard.estimators_], axis=0)
X, y, rows = parts(*diabetes)
numbers = [('a', LinearRegression()), ('b', near(True, n_neighbors=5)), ('c', DummyRegressor())]
mean = VotingRegressor(numbers).fit(X, y)

weights = []
rng = np.random.default_rng(7)
for members in (2, 3, 5, 8):
    for _ in range(4):
        truth = rng.normal(size=60)
        said = truth[:, None] * rng.uniform(0.2, 1.2, members) + rng.normal(size=(60, members)) * rng.uniform(0.2, 2, members)
        products = (said - truth[:, None]).T @ (said - truth[:, None]) / 60
        found = minimize(lambda w: w @ products @ w, np.full(members, 1 / members), jac=lambda w: 2 * products @ w,
                         bounds=[(0, 1)] * members, constraints={'type': 'eq', 'fun': lambda w: w.sum() - 1},
                         method='SLSQP', options=dict(ftol=1e-15, maxiter=1000))
        weights.append(dict(products=products.tolist(), weights=found.x.tolist()))


def bagging(X, y, numbers, seed):
    tree = (DecisionTreeRegressor if numbers else DecisionTreeClassifier)(random_state=seed)
    return (BaggingRegressor if numbers else BaggingClassifier)(tree, 20, oob_score=True, random_state=seed).fit(X, y)


def bagged(X, y, numbers):
    out = dict(scores=[], out_of_bag=[])
    fold = np.arange(len(y)) % 5
    for seed in SEEDS:
        scores = []
        for k in range(5):
            said = bagging(X[fold != k], y[fold != k], numbers, seed).predict(X[fold == k])
            scores.append((mean_squared_error if numbers else accuracy_score)(y[fold == k], said))
        whole = bagging(X, y, numbers, seed)
        out['scores'].append(float(np.mean(scores)))
        out['out_of_bag'].append(float(np.mean((whole.oob_prediction_ - y) ** 2) if numbers else 1 - whole.oob_score_))
    return out


json.dump(dict(versions=dict(sklearn=sklearn.__version__, scipy=scipy.__version__, python=sys.version.split()[0]),
               soft=soft.tolist(), votes=votes.tolist(), mean=mean.predict(rows).tolist(),
               median=np.median(mean.transform(rows), axis=1).tolist(), weights=weights,
               bagging=dict(wine=bagged(*wine, False), diabetes=bagged(*diabetes, True))), sys.stdout)
