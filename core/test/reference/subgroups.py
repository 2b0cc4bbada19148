"""Scores of subgroups, their worst and their largest gap by scikit-learn: writes subgroups.json and subgroups.csv."""
import json
import pathlib

import numpy as np
import pandas as pd
import sklearn
from sklearn import metrics

rng = np.random.default_rng(20261201)
n = 240
table = pd.DataFrame(
    {
        "colony": [f"c{i}" for i in range(n)],
        "region": rng.choice(["north", "south", "hill", "coast"], n, p=[0.4, 0.3, 0.18, 0.12]),
        "hives": rng.integers(1, 12, n),
    }
)
chance = 1 / (1 + np.exp(-(0.4 * table.hives - 2 + (table.region == "hill") * 0.8)))
table["survived"] = np.where(rng.random(n) < chance, "yes", "no")
noise = np.where(table.region == "coast", 2.0, 0.7)
p = 1 / (1 + np.exp(-(0.4 * table.hives - 2 + rng.normal(0, noise))))
table["p"] = np.round(p, 6)
folder = pathlib.Path(__file__).parent
table.to_csv(folder / "subgroups.csv", index=False)

GIVEN = 90
held = table.iloc[GIVEN:]
SCORES = {
    "accuracy": lambda part: metrics.accuracy_score(part.survived, np.where(part.p >= 0.5, "yes", "no")),
    "recall": lambda part: metrics.recall_score(
        part.survived, np.where(part.p >= 0.5, "yes", "no"), pos_label="yes"
    ),
    "log_loss": lambda part: metrics.log_loss(part.survived, part.p, labels=["no", "yes"]),
    "roc_auc": lambda part: metrics.roc_auc_score(part.survived == "yes", part.p),
}
out = {"versions": {"scikit-learn": sklearn.__version__, "pandas": pd.__version__}, "given": GIVEN, "cases": []}
for name, score in SCORES.items():
    groups = held.groupby("region")
    by = {region: score(part) for region, part in groups if len(part) >= 10}
    worst = max if name == "log_loss" else min
    out["cases"].append(
        {
            "metric": name,
            "all": score(held),
            "value": score(held[held.region == "hill"]),
            "where": score(held[held.hives > 5]),
            "worst": worst(by.values()),
            "gap": max(by.values()) - min(by.values()),
            "groups": by,
        }
    )
(folder / "subgroups.json").write_text(json.dumps(out, indent=1) + "\n")
