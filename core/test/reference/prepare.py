"""What pandas and scikit-learn make of the steps of a preparation, on iris with some cells left blank; writes prepare.json.

Run with Debian's python3-sklearn: python3 core/test/reference/prepare.py
Every column is compared as a list; a missing cell is null.
"""
import json
import pathlib

import numpy as np
import pandas as pd
import sklearn
from sklearn.feature_extraction.text import CountVectorizer
from sklearn.preprocessing import MinMaxScaler

here = pathlib.Path(__file__).parent
iris = pd.read_csv(here.parent / "open-data" / "iris.csv")
names = list(iris.columns[:4])
# The blanks of the test: every seventh sepal width, every eleventh petal length and every thirteenth species.
d = iris.copy()
d["day"] = pd.Timestamp("2024-02-25 05:30") + pd.to_timedelta(np.arange(len(d)) * 31, unit="h")
row = np.arange(len(d))
d.loc[row % 7 == 3, names[1]] = np.nan
d.loc[row % 11 == 5, names[2]] = np.nan
d.loc[row % 13 == 8, d.columns[4]] = np.nan
species = d.columns[4]
length, width, petal = names[:3]


def cells(column):
    return [None if pd.isna(v) else (v.item() if hasattr(v, "item") else v) for v in column]


def table(frame):
    return {str(name): cells(frame[name]) for name in frame.columns}


out = {"source": f"pandas {pd.__version__}, scikit-learn {sklearn.__version__}"}
out["drop any"] = table(d.dropna()[[length, species]])
out["drop all"] = table(d.dropna(subset=[width, petal], how="all")[[length, width]])
out["drop repeated"] = table(d.drop_duplicates(subset=[length, width])[[length, width]])
out["drop where"] = table(d[~((d[length] > 6) & (d[width] < 3))][[length, width]])
q1, q3 = d[width].quantile(0.25), d[width].quantile(0.75)
out["outliers by quartiles"] = table(
    d[~((d[width] < q1 - 1.5 * (q3 - q1)) | (d[width] > q3 + 1.5 * (q3 - q1)))][[length, width]])
far = (d[width] - d[width].mean()).abs() > 2 * d[width].std()
out["outliers by deviations"] = table(d[~far][[length, width]])
for how in ["mean", "median"]:
    out[f"fill {how}"] = table(pd.DataFrame({width: d[width].fillna(getattr(d[width], how)())}))
out["fill most frequent"] = table(pd.DataFrame({
    width: d[width].fillna(d[width].mode()[0]), species: d[species].fillna(d[species].mode()[0])}))
by_group = d.groupby(species)[width].transform("median")
out["fill by group"] = table(pd.DataFrame({width: d[width].fillna(by_group).fillna(d[width].median())}))
out["scale standard"] = table(pd.DataFrame({width: (d[width] - d[width].mean()) / d[width].std()}))
out["scale min-max"] = table(pd.DataFrame({width: MinMaxScaler().fit_transform(d[[width]])[:, 0]}))
out["bins width"] = table(pd.DataFrame({length: np.clip(np.digitize(
    d[length], np.linspace(d[length].min(), d[length].max(), 6)), 1, 5) - 1}))
out["bins quantiles"] = table(pd.DataFrame({length: np.clip(np.digitize(
    d[length], d[length].quantile([0, 0.25, 0.5, 0.75, 1])), 1, 4) - 1}))
out["dummies"] = table(pd.get_dummies(d[species], drop_first=True).astype(int))
out["dummies all"] = table(pd.get_dummies(d[species]).astype(int))
times = d["day"].dt
out["date parts"] = table(pd.DataFrame({
    "year": times.year, "month": times.month, "day": times.day, "weekday": times.isocalendar().day,
    "weekend": (times.dayofweek > 4).astype(int), "hour": times.hour}))
out["days since"] = table(pd.DataFrame({
    "days": (d["day"] - pd.Timestamp("2024-01-01")) / pd.Timedelta(days=1)}))
out["recent days"] = table(d[d["day"] > d["day"].max() - pd.Timedelta(days=60)][[length]])
texts = ["The bees fly", "bees, BEES and wax", "wax", "no smoke", "the wax of bees"]
counts = CountVectorizer(token_pattern=r"[^\W_]+").fit(texts)
matrix = counts.transform(texts).toarray()
words = counts.get_feature_names_out()
rows_of = (matrix > 0).sum(axis=0)
order = sorted(range(len(words)), key=lambda i: (-rows_of[i], words[i]))[:3]
out["word counts"] = {words[i]: matrix[:, i].tolist() for i in order}
out["formula"] = table(pd.DataFrame({
    "ratio": d[width] / d[length], "power": d[length] ** 2 % 3, "log": np.log(d[width]),
    "pick": np.where(d[length] > 6, d[length], -d[length]), "rounded": d[width].round()}))
(here / "prepare.json").write_text(json.dumps(out) + "\n")
