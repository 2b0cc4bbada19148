"""Out-of-fold predictions that scikit-learn makes, and predictions that only look like these, as JSON on standard output.

Arguments: a seed, and the number of tables (at most 21). Run with scikit-learn 1.2 (Debian's python3-sklearn).
"""

import itertools
import json
import sys
import warnings

import numpy as np
from sklearn.datasets import load_breast_cancer, load_diabetes, load_iris, load_wine, make_classification, make_regression
from sklearn.ensemble import (GradientBoostingClassifier, GradientBoostingRegressor, RandomForestClassifier,
                              RandomForestRegressor)
from sklearn.linear_model import LinearRegression, LogisticRegression, Ridge
from sklearn.model_selection import KFold, StratifiedKFold, cross_val_predict
from sklearn.naive_bayes import GaussianNB
from sklearn.neighbors import KNeighborsClassifier, KNeighborsRegressor
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import StandardScaler
from sklearn.tree import DecisionTreeClassifier, DecisionTreeRegressor

warnings.filterwarnings("ignore")
rng = np.random.RandomState(int(sys.argv[1]))


def seed():
    return rng.randint(1_000_000)


def part(data, rows, columns):
    keep = rng.permutation(len(data.target))[:rows]
    return data.data[keep][:, rng.permutation(data.data.shape[1])[:columns]], data.target[keep]


def tables():
    """Small and large tables, weak and strong features, rare classes, and open data sets."""
    for _ in range(8):
        n, p = int(rng.choice([80, 150, 300, 600])), int(rng.choice([3, 6, 12]))
        yield False, make_classification(
            n, p, n_informative=max(2, p // 2), n_redundant=p // 4, class_sep=rng.choice([0.3, 0.8, 1.5]),
            weights=[rng.choice([0.5, 0.8])], flip_y=0.05, random_state=seed())
    for _ in range(3):
        yield False, make_classification(
            int(rng.choice([150, 300, 600])), 6, n_informative=4, n_classes=3, n_clusters_per_class=1,
            class_sep=rng.choice([0.4, 1.0]), random_state=seed())
    for _ in range(4):
        yield True, make_regression(
            int(rng.choice([80, 150, 400])), int(rng.choice([3, 8])), noise=rng.choice([5, 50, 200]), random_state=seed())
    for load in (load_iris, load_wine, load_breast_cancer):
        yield False, part(load(), 300, 4)
    yield True, part(load_diabetes(), 250, 6)
    # Skewed features, which a logistic regression that is not scaled finds hard.
    for _ in range(2):
        x = np.exp(rng.randn(300, 4) * 1.2)
        yield False, (x, (rng.rand(300) < 1 / (1 + np.exp(-np.log(x) @ np.array([1, -0.7, 0, 0])))).astype(int))


def scaled(model):
    return make_pipeline(StandardScaler(), model)


def models(numbers):
    """Family of the question, its settings, and the model that a student uses for it."""
    if numbers:
        return [("linear", "", LinearRegression()), ("linear", "", scaled(Ridge(1.0))),
                ("nearest", "", scaled(KNeighborsRegressor(5))),
                ("tree", "depth=4", DecisionTreeRegressor(max_depth=4, random_state=seed())),
                ("any", "", RandomForestRegressor(50, random_state=seed())),
                ("any", "", GradientBoostingRegressor(random_state=seed()))]
    return [("logistic", "", LogisticRegression(max_iter=5000)), ("logistic", "", scaled(LogisticRegression(max_iter=5000))),
            ("logistic", "", scaled(LogisticRegression(C=1e8, max_iter=5000))),
            ("nearest", "", scaled(KNeighborsClassifier(5))), ("naive-bayes", "", GaussianNB()),
            ("tree", "depth=4", DecisionTreeClassifier(max_depth=4, random_state=seed())),
            ("any", "", RandomForestClassifier(50, random_state=seed())),
            ("any", "", GradientBoostingClassifier(random_state=seed()))]


def near_truth(y, numbers):
    """The truth with noise."""
    if numbers:
        return y + rng.normal(0, y.std() * rng.choice([0.3, 0.6]), len(y))
    known = np.eye(len(set(y)))[y]
    odds = np.exp(rng.choice([1, 2]) * known + rng.normal(0, 0.7, known.shape))
    return odds / odds.sum(1, keepdims=True)


out = []
for numbers, (x, y) in itertools.islice(tables(), int(sys.argv[2])):
    x = np.round(x, 4)
    k = int(rng.choice([5, 10]))
    kind = KFold if numbers else StratifiedKFold
    folds = list(kind(k, shuffle=True, random_state=seed()).split(x, y))
    fold = np.zeros(len(y), int)
    for i, (_, test) in enumerate(folds):
        fold[test] = i + 1
    files = []
    for family, settings, model in models(numbers):
        method = "predict" if numbers else "predict_proba"

        def add(what, predicted, family=family, settings=settings):
            files.append(dict(what=what, family=family, settings=settings, predicted=np.round(predicted, 4).tolist()))

        add("honest", cross_val_predict(model, x, y, cv=folds, method=method))
        if family != "any":
            add("in sample", getattr(model.fit(x, y), method)(x))
            add("truth with noise", near_truth(y, numbers))
    add("random", rng.permutation(y) if numbers else rng.dirichlet(np.ones(len(set(y))), len(y)))
    out.append(dict(numbers=bool(numbers), x=x.tolist(), y=y.tolist(), k=k, fold=fold.tolist(), files=files))
json.dump(out, sys.stdout)
