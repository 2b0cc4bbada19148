"""Expected values of models that the shared cases do not cover: nearest neighbours, kernel naive Bayes, pruned trees,
row weights, multinomial logistic regression.

Debian: apt-get install python3-sklearn python3-statsmodels python3-pandas
Run:    /usr/bin/python3 models.py > models.json
"""
import json, sys
import numpy as np, sklearn, statsmodels, statsmodels.api as sm
from sklearn import datasets
from sklearn.naive_bayes import CategoricalNB
from sklearn.neighbors import KNeighborsClassifier, KNeighborsRegressor, KernelDensity
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import StandardScaler
from sklearn.tree import DecisionTreeClassifier, DecisionTreeRegressor

iris = datasets.load_iris(); X, y = iris.data, iris.target
dia = datasets.load_diabetes(); D, t = dia.data, dia.target
every = np.arange(len(y)) % 3 != 0          # learned from; the others are predicted
dtrain = np.arange(len(t)) % 3 != 0
wi = 1.0 + np.arange(len(y)) % 3
wd = 1.0 + np.arange(len(t)) % 4
out = {}

out['nearest'] = [
    dict(weights=w, neighbours=k,
         classes=make_pipeline(StandardScaler(), KNeighborsClassifier(k, weights=w)).fit(X[every], y[every]).predict_proba(X[~every]).tolist(),
         numbers=make_pipeline(StandardScaler(), KNeighborsRegressor(k, weights=w)).fit(D[dtrain], t[dtrain]).predict(D[~dtrain]).tolist())
    for w in ('uniform', 'distance') for k in (1, 7)]


def bandwidth(v):                            # R, bw.nrd0
    q = np.subtract(*np.percentile(v, [75, 25])) / 1.34
    return 0.9 * min(v.std(ddof=1), q) * len(v) ** -0.2


def kernel(x):
    logs = np.zeros((len(x), 3)) + np.log(np.bincount(y) / len(y))
    for c in range(3):
        for j in range(4):
            v = X[y == c, j]
            logs[:, c] += KernelDensity(bandwidth=bandwidth(v)).fit(v[:, None]).score_samples(x[:, [j]])
    p = np.exp(logs - logs.max(1, keepdims=True))
    return p / p.sum(1, keepdims=True)


out['kernel'] = kernel(X).tolist()
tertile = np.array([np.searchsorted(np.quantile(X[:, j], [1 / 3, 2 / 3]), X[:, j]) for j in range(4)]).T
out['categories'] = dict(codes=tertile.tolist(), probabilities=CategoricalNB(alpha=1).fit(tertile, y).predict_proba(tertile).tolist())

wine = datasets.load_wine(); W, v = wine.data, wine.target
path = DecisionTreeClassifier(random_state=0).fit(W, v).cost_complexity_pruning_path(W, v)
out['pruning'] = dict(alphas=path.ccp_alphas.tolist(),
                      runs=[dict(alpha=a, leaves=int((m := DecisionTreeClassifier(random_state=0, ccp_alpha=a).fit(W, v)).get_n_leaves()), accuracy=m.score(W, v)) for a in (0.005, 0.02, 0.05, 0.1)],
                      numbers=[dict(alpha=a, leaves=int((m := DecisionTreeRegressor(random_state=0, ccp_alpha=a).fit(D, t)).get_n_leaves()), mse=float(np.mean((m.predict(D) - t) ** 2))) for a in (50, 200, 500)])
m = DecisionTreeClassifier(max_depth=3, random_state=0).fit(W, v)
out['importances'] = {wine.feature_names[j].replace('/', '_per_'): float(s) for j, s in enumerate(m.feature_importances_) if s > 0}

w = sm.WLS(t, sm.add_constant(D), weights=wd).fit()
out['wls'] = dict(estimate=w.params.tolist(), se=w.bse.tolist(), r2=w.rsquared, log_likelihood=w.llf, aic=w.aic)
g = sm.GLM((y == 2).astype(int), sm.add_constant(X[:, :2]), family=sm.families.Binomial(), freq_weights=wi).fit(tol=1e-13)
out['weighted_logistic'] = dict(estimate=g.params.tolist(), se=g.bse.tolist(), deviance=g.deviance)
n = sm.MNLogit(v, sm.add_constant(W[:, [0, 2, 9]])).fit(disp=0, maxiter=200)
out['multinomial'] = dict(columns=[wine.feature_names[j] for j in (0, 2, 9)], estimate=n.params.T.tolist(), se=n.bse.T.tolist(), log_likelihood=n.llf)
m = DecisionTreeRegressor(max_depth=3, random_state=0).fit(D, t, sample_weight=wd)
out['weighted_tree'] = dict(leaves=int(m.get_n_leaves()), predictions=m.predict(D).tolist())
json.dump(dict(source=f'scikit-learn {sklearn.__version__}, statsmodels {statsmodels.__version__}', **out), sys.stdout)
