"""What numpy and pandas make of two columns of iris; writes pair.json.

Run with Debian's python3-pandas: python3 core/test/reference/pair.py
"""
import json
import pathlib

import numpy as np
import pandas as pd

here = pathlib.Path(__file__).parent
iris = pd.read_csv(here.parent / "open-data" / "iris.csv")
length, width, petal, petal_width, species = iris.columns
slope, intercept = np.polyfit(iris[petal], iris[petal_width], 1)
boxes = []
for name, rows in iris.groupby(species)[width]:
    q1, median, q3 = rows.quantile([0.25, 0.5, 0.75])
    inside = rows[rows.between(q1 - 1.5 * (q3 - q1), q3 + 1.5 * (q3 - q1))]
    boxes.append({"label": str(name), "rows": len(rows), "low": inside.min(), "q1": q1, "median": median,
                  "q3": q3, "high": inside.max(), "beyond": len(rows) - len(inside)})
wide = np.where(iris[width] >= 3, "wide", "narrow")
table = pd.crosstab(iris[species], wide)
json.dump({
    "source": f"numpy {np.__version__}, pandas {pd.__version__}; whiskers as Tukey (1977) has them",
    "line": {"slope": slope, "intercept": intercept, "r2": np.corrcoef(iris[petal], iris[petal_width])[0, 1] ** 2},
    "boxes": boxes,
    "cross": {"x": list(table.columns), "y": [str(v) for v in table.index], "counts": table.to_numpy().tolist()},
    "by_bar": {  # mean petal width in the 24 equal bins of petal length
        "figures": [None if np.isnan(v) else v for v in [
            iris[petal_width][np.minimum(23, ((iris[petal] - 1.0) / ((6.9 - 1.0) / 24)).astype(int)) == b].mean()
            for b in range(24)]],
    },
}, open(here / "pair.json", "w"), indent=1)
