"""Totals of invented gradebooks: weighted means by numpy.average. Run: python3 totals.py > totals.json"""
import json
import sys

import numpy as np

rng = np.random.default_rng(20261201)
cases = []
for _ in range(40):
    categories = [
        {"name": f"c{i}", "weight": float(rng.integers(1, 60)), "drop": int(rng.integers(0, 3))}
        for i in range(int(rng.integers(0, 4)))
    ]
    exercises = []
    for i in range(int(rng.integers(1, 9))):
        out_of = float(rng.integers(5, 30))
        exercises.append(
            {
                "id": f"e{i}",
                "category": f"c{rng.integers(len(categories))}" if categories else "",
                "weight": float(rng.choice([out_of, 1.0, 2.5])),
                "outOf": out_of,
                "marks": None if rng.random() < 0.15 else round(float(rng.random() * out_of), 2),
                "excused": bool(rng.random() < 0.15),
                "returned": bool(rng.random() < 0.85),
            }
        )
    shares, weights = [], []
    for category in categories or [{"name": "", "weight": 1.0, "drop": 0}]:
        inside = [e for e in exercises if e["category"] == category["name"] and e["returned"] and not e["excused"]]
        if not inside:
            continue
        share = np.array([(e["marks"] or 0) / e["outOf"] for e in inside])
        weight = np.array([e["weight"] for e in inside])
        kept = np.argsort(share, kind="stable")[min(category["drop"], len(inside) - 1):]
        shares.append(np.average(share[kept], weights=weight[kept]))
        weights.append(category["weight"])
    total = float(np.average(shares, weights=weights)) if shares else None
    cases.append({"categories": categories, "exercises": exercises, "total": total})
json.dump({"numpy": np.__version__, "cases": cases}, sys.stdout)
