"""Expected values for the metrics that the cases' own expected.json leaves out; writes more.json.

Run with Debian's python3-sklearn and python3-statsmodels: python3 core/test/reference/more.py
"""
import json
import pathlib
import sys

import numpy as np
import pandas as pd
import scipy
import sklearn
from scipy import stats
from sklearn import metrics as m
from statsmodels.stats.contingency_tables import mcnemar
from statsmodels.stats.proportion import proportion_confint

here = pathlib.Path(__file__).parent
out = {"source": f"scikit-learn {sklearn.__version__}, scipy {scipy.__version__}"}


def joined(name):
    truth = pd.read_csv(here / name / "truth.csv")
    pred = pd.read_csv(here / name / "pred.csv")
    return truth.merge(pred, on="id")


for name in ["multiclass-wine", "multiclass-iris"]:
    d = joined(name)
    labels = sorted(d.target.unique())
    p = d[[f"p:{label}" for label in labels]].to_numpy()
    out[name] = {
        "kappa_linear": m.cohen_kappa_score(d.target, d.prediction, weights="linear"),
        "kappa_quadratic": m.cohen_kappa_score(d.target, d.prediction, weights="quadratic"),
        "roc_auc_one_vs_one": m.roc_auc_score(d.target, p, multi_class="ovo", labels=labels),
        **{f"{a}_jaccard": m.jaccard_score(d.target, d.prediction, average=a) for a in ["macro", "micro", "weighted"]},
    }
for name in ["binary", "binary-ties-weights"]:
    d = joined(name)
    w = d.w if "w" in d else None
    positive = sorted(d.target.unique())[-1]
    y = (d.target == positive).astype(int)
    predicted = (d.prediction == positive).astype(int)
    out[name] = {
        "f2": m.fbeta_score(y, predicted, beta=2, sample_weight=w),
        "f_half": m.fbeta_score(y, predicted, beta=0.5, sample_weight=w),
    }
    score = d.probability if "probability" in d else d[f"p:{positive}"]
    fpr, tpr, _ = m.roc_curve(y, score, sample_weight=w, drop_intermediate=False)
    precision, recall, _ = m.precision_recall_curve(y, score, sample_weight=w)
    out[name]["roc_points"] = len(fpr)
    out[name]["roc_sum"] = float(fpr.sum() + tpr.sum())
    out[name]["pr_sum"] = float(precision[:-1].sum() + recall[:-1].sum())
d = joined("regression")
out["regression"] = {
    "rmsle": float(np.sqrt(m.mean_squared_log_error(d.target, d.prediction))),
    "pearson": stats.pearsonr(d.target, d.prediction)[0],
    "spearman": stats.spearmanr(d.target, d.prediction)[0],
    **{f"pinball_{a}": m.mean_pinball_loss(d.target, d.prediction, alpha=a / 100) for a in [10, 50, 90]},
}
out["mcnemar"] = {"both": [[10, 3], [12, 20]], "p": mcnemar([[10, 3], [12, 20]], exact=True).pvalue}
out["wilson"] = {"hits": 37, "of": 120, "level": 0.9, "interval": proportion_confint(37, 120, alpha=0.1, method="wilson")}
rng = np.random.default_rng(0)
a, b = rng.normal(0.80, 0.03, 10).round(4), rng.normal(0.78, 0.03, 10).round(4)
diff = a - b
t = diff.mean() / np.sqrt((1 / 10 + 1 / 9) * diff.var(ddof=1))
out["resampled_t"] = {"first": a.tolist(), "second": b.tolist(), "t": t, "p": 2 * stats.t.sf(abs(t), 9)}
json.dump(out, open(here / "more.json", "w"), indent=1, default=float)
sys.stdout.write("written\n")
