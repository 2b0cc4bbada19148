"""Questions of invented classes: share of the marks, and correlation with the rest of them.

SciPy's `pearsonr` with its interval by Fisher's transformation. Run as `python3 items.py > items.json`.
"""
import json

import numpy
import scipy.stats

cases = []
for seed, (students, questions) in enumerate([(24, 4), (60, 3), (11, 2)]):
    random = numpy.random.default_rng(20261201 + seed)
    able = random.normal(size=students)
    most = random.integers(2, 11, questions).tolist()
    marks = [
        [
            None if random.random() < 0.1 else round(float(m / (1 + numpy.exp(-a - random.normal()))) * 4) / 4
            for m in most
        ]
        for a in able
    ]
    # Who answered nothing is not counted; what was not answered earned nothing.
    counted = numpy.array([[x or 0 for x in own] for own in marks if any(x is not None for x in own)])
    expected = []
    for q in range(questions):
        found = scipy.stats.pearsonr(counted[:, q], counted.sum(axis=1) - counted[:, q])
        interval = found.confidence_interval(0.95)
        expected.append(
            {
                "students": len(counted),
                "answered": sum(own[q] is not None for own in marks),
                "share": counted[:, q].mean() / most[q],
                "r": found.statistic,
                "low": interval.low,
                "high": interval.high,
            }
        )
    cases.append({"most": most, "marks": marks, "expected": expected})
print(json.dumps({"scipy": scipy.__version__, "cases": cases}))
