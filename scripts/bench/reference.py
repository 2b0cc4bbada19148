"""The same work with pandas and scikit-learn: one task a run, seconds and peak memory as JSON on standard output."""
import json
import resource
import sys
import time

task, *files = sys.argv[1:]
start = time.time()
import numpy as np
import pandas as pd

if task == "profile":
    d = pd.read_csv(files[0])
    d.describe(include="all")
    d.nunique()
    numbers = d.select_dtypes("number")
    numbers.skew()
    numbers.kurt()
    numbers.corr()
elif task == "score":
    from sklearn import metrics as m

    d = pd.read_csv(files[0]).merge(pd.read_csv(files[1]), on="id")
    y = (d.y == "lost").astype(int)
    p = (d.probability >= 0.5).astype(int)
    for f in [m.confusion_matrix, m.accuracy_score, m.balanced_accuracy_score, m.precision_score, m.recall_score,
              m.f1_score, m.jaccard_score, m.cohen_kappa_score, m.matthews_corrcoef]:
        f(y, p)
    for f in [m.roc_auc_score, m.average_precision_score, m.log_loss, m.brier_score_loss]:
        f(y, d.probability)
elif task in ("stratified", "stratified-grouped"):
    from sklearn.model_selection import StratifiedGroupKFold, StratifiedKFold

    d = pd.read_csv(files[0])
    start = time.time()
    if task == "stratified":
        list(StratifiedKFold(10, shuffle=True, random_state=0).split(d, d.y))
    else:
        list(StratifiedGroupKFold(5, shuffle=True, random_state=0).split(d, d.y, d.hive))
elif task == "depth":
    from sklearn.model_selection import validation_curve
    from sklearn.tree import DecisionTreeClassifier

    rng = np.random.default_rng(0)
    x = rng.normal(size=(20_000, 20))
    y = (x[:, :10] @ (np.arange(10) % 3 - 0.7) + 2 * rng.normal(size=20_000) > 0).astype(int)
    validation_curve(DecisionTreeClassifier(random_state=0), x, y, param_name="max_depth",
                     param_range=[1, 2, 3, 5, 8, 12, 16, 20, 30], cv=5)
elif task == "fit":
    from sklearn.metrics import accuracy_score, log_loss, roc_auc_score
    from sklearn.pipeline import make_pipeline
    from sklearn.preprocessing import StandardScaler

    family, path = files
    d = pd.read_csv(path)
    x, y = d.drop(columns="y"), (d.y == "sick").astype(int)
    if family == "forest":
        from sklearn.ensemble import RandomForestClassifier
        model = RandomForestClassifier(100, oob_score=True, n_jobs=2, random_state=1)
    elif family == "boosting":
        from sklearn.ensemble import HistGradientBoostingClassifier
        model = HistGradientBoostingClassifier(early_stopping=False)
    elif family == "vector-machine":
        from sklearn.svm import SVC
        model = make_pipeline(StandardScaler(), SVC(tol=1e-4))
    else:
        from sklearn.neural_network import MLPClassifier
        model = make_pipeline(StandardScaler(), MLPClassifier((20,), max_iter=50, n_iter_no_change=50, tol=0))
    said = model.fit(x, y).predict(x)
    accuracy_score(y, said)
    if family != "vector-machine":
        chances = model.predict_proba(x)[:, 1]
        log_loss(y, chances), roc_auc_score(y, chances)
elif task.startswith("predict-"):
    from sklearn.linear_model import LinearRegression
    from sklearn.tree import DecisionTreeClassifier

    rng = np.random.default_rng(0)
    size = {"predict-onnx": 30_000, "predict-pmml": 5_000, "predict-csv": 2_000}[task]
    columns = 1_000 if task == "predict-csv" else 20
    x, rows = rng.random((size, columns)), rng.random((10_000, columns))
    if task == "predict-csv":
        model = LinearRegression()
        model.coef_, model.intercept_ = rng.random(columns), 0.0
    else:
        model = DecisionTreeClassifier(random_state=0).fit(x, rng.integers(0, 2, size))
    start = time.time()
    for _ in range(100):
        model.predict(rows) if task == "predict-csv" else model.predict_proba(rows)
elif task == "mark":
    # As somebody would who marks a class with a script: every file is read, checked and scored, and its area has the
    # standard error of Hanley and McNeil (Radiology 143, 1982).
    import io

    from sklearn.metrics import roc_auc_score

    rng = np.random.default_rng(0)
    n = 5000
    truth = pd.Series((rng.random(n) < 0.3).astype(int), index=[f"r{i}" for i in range(n)])
    texts = []
    for student in range(500):
        told = student % 4 * 0.2
        chance = truth.to_numpy() * told + rng.random(n) * (1 - told)
        texts.append(pd.DataFrame({"id": truth.index, "probability": chance.round(4)}).to_csv(index=False).encode())
    start = time.time()
    for text in texts:
        d = pd.read_csv(io.BytesIO(text))
        if list(d.columns) != ["id", "probability"] or d.id.duplicated().any() or not d.id.isin(truth.index).all():
            raise ValueError
        p = d.set_index("id").probability.reindex(truth.index)
        if p.isna().any() or not p.between(0, 1).all():
            raise ValueError
        a, ones = roc_auc_score(truth, p), truth.sum()
        (a * (1 - a) + (ones - 1) * (a / (2 - a) - a * a) + (n - ones - 1) * (2 * a * a / (1 + a) - a * a)) / ones / (n - ones)
else:
    from sklearn.metrics import roc_auc_score

    rng = np.random.default_rng(0)
    y = rng.random(10_000) < 0.3
    s = np.round(0.2 + 0.2 * y + rng.random(10_000) * 0.5, 6)
    start = time.time()
    for _ in range(1000):
        rows = rng.integers(0, 10_000, 10_000)
        roc_auc_score(y[rows], s[rows])
print(json.dumps({"seconds": time.time() - start, "peak": resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024}))
