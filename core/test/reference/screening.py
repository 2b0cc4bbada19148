"""Columns beside a target by SciPy and scikit-learn: writes screening.json. Run with the versions that it names."""
import json
import pathlib

import numpy as np
import scipy
import sklearn
from scipy.stats import chi2, chi2_contingency
from sklearn.datasets import load_diabetes, load_iris
from sklearn.feature_selection import f_classif, f_regression
from sklearn.metrics import mutual_info_score


def parts(values, count=5):
    """Codes of fifths: the number of distinct limits that a value is not below."""
    ordered = np.sort(values)
    limits = np.unique([ordered[(i + 1) * len(values) // count] for i in range(count - 1)])
    return np.searchsorted(limits, values, side="right")


def counts(x, y):
    table = np.zeros((x.max() + 1, y.max() + 1))
    np.add.at(table, (x, y), 1)
    table = table[table.sum(1) > 0][:, table.sum(0) > 0]
    statistic, p, df, _ = chi2_contingency(table, correction=False)
    information = mutual_info_score(x, y)
    return {
        "chi-square": [statistic, p],
        "mutual-information": [information, chi2.sf(2 * len(x) * information, df)],
    }


out = {"versions": {"scipy": scipy.__version__, "scikit-learn": sklearn.__version__}, "cases": []}
for name, data, anova in [
    ("iris", load_iris(), f_classif),
    ("diabetes", load_diabetes(scaled=False), f_regression),
]:
    statistics, p = anova(data.data, data.target)
    target = data.target if name == "iris" else parts(data.target)
    for column in range(data.data.shape[1]):
        own = counts(parts(data.data[:, column]), target.astype(int))
        own["anova"] = [statistics[column], p[column]]
        out["cases"].append({"data": name, "column": column, "expected": own})
pathlib.Path(__file__).with_name("screening.json").write_text(json.dumps(out, indent=1) + "\n")
