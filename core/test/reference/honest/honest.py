"""Honest splits, folds and out-of-fold predictions as scikit-learn makes them: tables.csv files and honest.json.

Run with scikit-learn 1.2.1 (Debian python3-sklearn). The tables are open data sets of scikit-learn with rounded features;
groups are made up: each has about ten rows.
"""

import json
import numpy as np
from sklearn.datasets import load_breast_cancer, load_diabetes, load_wine
from sklearn.ensemble import GradientBoostingClassifier, GradientBoostingRegressor, RandomForestClassifier, RandomForestRegressor
from sklearn.linear_model import LinearRegression, LogisticRegression, Ridge
from sklearn.model_selection import (GroupKFold, GroupShuffleSplit, KFold, StratifiedGroupKFold, StratifiedKFold,
                                     StratifiedShuffleSplit, TimeSeriesSplit, cross_val_predict, train_test_split)
from sklearn.naive_bayes import GaussianNB
from sklearn.neighbors import KNeighborsClassifier, KNeighborsRegressor
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import StandardScaler
from sklearn.tree import DecisionTreeClassifier, DecisionTreeRegressor

SEEDS = 12


def table(name, data, features, rows):
    rng = np.random.RandomState(7)
    keep = np.sort(rng.permutation(len(data.target))[:rows])
    x = np.round(data.data[keep][:, features], 4)
    y = data.target[keep]
    # Groups of about ten rows, and times that repeat: about three rows a day.
    group = rng.randint(0, rows // 10, rows)
    time = rng.randint(1, rows // 3, rows)
    names = [f"x{i + 1}" for i in range(len(features))]
    with open(f"{name}.csv", "w") as out:
        out.write(",".join(["id", "group", "time", *names, "target"]) + "\n")
        for i in range(rows):
            label = f"c{y[i]}" if data.target_names_known else f"{y[i]:g}"
            out.write(",".join([f"r{i}", f"g{group[i]}", str(time[i]), *(f"{v:g}" for v in x[i]), label]) + "\n")
    x = np.array([[float(f"{v:g}") for v in row] for row in x])
    return x, y, group, time


def as_folds(splitter, *args):
    fold = np.zeros(len(args[0]), dtype=int)
    for i, (_, test) in enumerate(splitter.split(*args)):
        fold[test] = i + 1
    return fold.tolist()


def mask(n, test):
    part = np.zeros(n, dtype=int)
    part[test] = 1
    return part.tolist()


out = {}
for name, load, features, rows in [("binary", load_breast_cancer, [0, 1, 4, 8, 9, 11], 240),
                                   ("multiclass", load_wine, [0, 1, 2, 3, 4, 7], 150),
                                   ("regression", load_diabetes, [0, 2, 3, 4, 6, 8], 240)]:
    data = load()
    data.target_names_known = name != "regression"
    x, y, group, time = table(name, data, features, rows)
    strata = y if name != "regression" else np.digitize(y, np.quantile(y, [0.25, 0.5, 0.75]))
    splits, folds = [], []
    for seed in range(SEEDS):
        index = np.arange(rows)
        splits.append(["train_test_split", "", mask(rows, train_test_split(index, test_size=0.2, random_state=seed)[1])])
        splits.append(["train_test_split, stratify", "stratify", mask(rows, train_test_split(index, test_size=0.2, random_state=seed, stratify=strata)[1])])
        splits.append(["GroupShuffleSplit", "group", mask(rows, next(GroupShuffleSplit(1, test_size=0.2, random_state=seed).split(x, y, group))[1])])
        splits.append(["StratifiedGroupKFold, one of five", "stratify group", mask(rows, next(StratifiedGroupKFold(5, shuffle=True, random_state=seed).split(x, strata, group))[1])])
        folds.append(["KFold", "", as_folds(KFold(5, shuffle=True, random_state=seed), x)])
        folds.append(["StratifiedKFold", "stratify", as_folds(StratifiedKFold(5, shuffle=True, random_state=seed), x, strata)])
        folds.append(["StratifiedGroupKFold", "stratify group", as_folds(StratifiedGroupKFold(5, shuffle=True, random_state=seed), x, strata, group)])
    folds.append(["GroupKFold", "group", as_folds(GroupKFold(5), x, y, group)])
    order = np.argsort(time, kind="stable")
    splits.append(["sorted rows cut at 80 %", "time", mask(rows, order[int(0.8 * rows):])])
    last = list(TimeSeriesSplit(4).split(order))[-1][1]
    splits.append(["TimeSeriesSplit, the last of four", "time", mask(rows, order[last])])

    if name == "regression":
        models = {"linear": [LinearRegression(), make_pipeline(StandardScaler(), Ridge(1.0))],
                  "nearest": [make_pipeline(StandardScaler(), KNeighborsRegressor(5))],
                  "tree": [DecisionTreeRegressor(max_depth=4, random_state=0)],
                  "any": [RandomForestRegressor(100, random_state=0), GradientBoostingRegressor(random_state=0)]}
    else:
        models = {"logistic": [make_pipeline(StandardScaler(), LogisticRegression(max_iter=5000)),
                               make_pipeline(StandardScaler(), LogisticRegression(C=1e6, max_iter=5000)),
                               LogisticRegression(max_iter=5000)],
                  "nearest": [make_pipeline(StandardScaler(), KNeighborsClassifier(5))],
                  "naive-bayes": [GaussianNB()],
                  "tree": [DecisionTreeClassifier(max_depth=4, random_state=0)],
                  "any": [RandomForestClassifier(100, random_state=0), GradientBoostingClassifier(random_state=0)]}
    predictions = []
    for seed in (1, 2):
        cv = list((KFold if name == "regression" else StratifiedKFold)(5, shuffle=True, random_state=seed).split(x, y))
        fold = np.zeros(rows, dtype=int)
        for i, (_, test) in enumerate(cv):
            fold[test] = i + 1
        for family, kinds in models.items():
            for model in kinds:
                method = "predict" if name == "regression" else "predict_proba"
                p = cross_val_predict(model, x, y, cv=cv, method=method)
                predictions.append({"family": family, "model": str(model), "fold": fold.tolist(),
                                    "predicted": np.round(p, 4).tolist()})
    # The cheats: the truth with noise, and models that have seen the row.
    rng = np.random.RandomState(3)
    cheats = []
    for family, kinds in models.items():
        if family == "any":
            continue
        fitted = kinds[0].fit(x, y)
        if name == "regression":
            cheats.append({"family": family, "what": "in sample", "fold": fold.tolist(), "predicted": np.round(fitted.predict(x), 4).tolist()})
            cheats.append({"family": family, "what": "truth with noise", "fold": fold.tolist(),
                           "predicted": np.round(y + rng.normal(0, y.std() / 2, rows), 2).tolist()})
        else:
            cheats.append({"family": family, "what": "in sample", "fold": fold.tolist(), "predicted": np.round(fitted.predict_proba(x), 4).tolist()})
            hot = np.eye(len(set(y)))[y]
            noisy = np.exp(1.5 * hot + rng.normal(0, 0.7, hot.shape))
            cheats.append({"family": family, "what": "truth with noise", "fold": fold.tolist(),
                           "predicted": np.round(noisy / noisy.sum(axis=1, keepdims=True), 4).tolist()})
    out[name] = {"splits": splits, "folds": folds, "predictions": predictions, "cheats": cheats}

json.dump(out, open("honest.json", "w"), separators=(",", ":"))
