"""Predictions of support vector machines for every third row of open data, learned from the others.

Debian: apt-get install python3-sklearn
Run:    /usr/bin/python3 machines.py > machines.json
"""
import json, sys
import numpy as np, sklearn
from sklearn import datasets
from sklearn.preprocessing import StandardScaler
from sklearn.svm import SVC, SVR

KERNELS = {'linear': 'linear', 'polynomial': 'poly', 'radial': 'rbf'}
runs = []
for data, load in (('iris', datasets.load_iris), ('wine', datasets.load_wine),
                   ('breast-cancer', datasets.load_breast_cancer), ('diabetes', datasets.load_diabetes)):
    d = load()
    X, y = d.data, d.target
    test = np.arange(len(y)) % 3 == 0
    scaler = StandardScaler().fit(X[~test])
    A, B = scaler.transform(X[~test]), scaler.transform(X[test])
    for values in ({'kernel': 'linear'}, {'kernel': 'linear', 'cost': 0.01}, {'kernel': 'radial'},
                   {'kernel': 'radial', 'cost': 30, 'width': 1.5}, {'kernel': 'polynomial', 'constant': 1},
                   {'kernel': 'polynomial', 'degree': 2, 'cost': 5}):
        options = dict(kernel=KERNELS[values['kernel']], C=values.get('cost', 1), degree=values.get('degree', 3),
                       coef0=values.get('constant', 0), tol=1e-6,
                       gamma=1 / (2 * values['width'] ** 2) if 'width' in values else 'auto')
        if data == 'diabetes':
            mean, sd = y[~test].mean(), y[~test].std()
            said = SVR(epsilon=0.1, **options).fit(A, (y[~test] - mean) / sd).predict(B) * sd + mean
            runs.append(dict(data=data, values=values, numbers=said.tolist()))
        else:
            model = SVC(**options).fit(A, y[~test])
            runs.append(dict(data=data, values=values, labels=d.target_names[model.predict(B)].tolist(),
                             vectors=int(model.n_support_.sum())))
json.dump(dict(versions=dict(sklearn=sklearn.__version__, python=sys.version.split()[0]), runs=runs), sys.stdout)
