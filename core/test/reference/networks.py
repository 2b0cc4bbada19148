"""Training loss of small networks after some epochs, and scores over five folds (row number modulo 5), for twelve seeds.

Debian: apt-get install python3-sklearn
Run:    /usr/bin/python3 networks.py > networks.json
"""
import json, sys, warnings
import numpy as np, sklearn
from sklearn import datasets
from sklearn.metrics import accuracy_score, mean_squared_error
from sklearn.neural_network import MLPClassifier, MLPRegressor
from sklearn.preprocessing import StandardScaler

warnings.filterwarnings('ignore')
DATA = {'wine': datasets.load_wine(return_X_y=True), 'breast-cancer': datasets.load_breast_cancer(return_X_y=True),
        'diabetes': datasets.load_diabetes(return_X_y=True)}
EPOCHS = [1, 5, 20, 60]


def model(data, values, seed):
    solver = dict(solver='sgd', momentum=0) if values.get('optimiser') == 'gradient' else dict(solver='adam')
    options = dict(hidden_layer_sizes=tuple(int(n) for n in values['layers'].split(',')), activation=values['activation'],
                   learning_rate_init=values['learning_rate'], max_iter=EPOCHS[-1], batch_size=values['batch'],
                   alpha=values.get('decay', 1e-4), tol=0, n_iter_no_change=10 ** 6, random_state=seed, **solver)
    return (MLPRegressor if data == 'diabetes' else MLPClassifier)(**options)


def run(data, values):
    X, y = DATA[data]
    fold = np.arange(len(y)) % 5
    losses, scores = [], []
    for seed in range(100, 112):
        A = StandardScaler().fit_transform(X)
        sd = y.std() if data == 'diabetes' else 1
        t = (y - y.mean()) / sd if data == 'diabetes' else y
        curve = model(data, values, seed).fit(A, t).loss_curve_
        # Their squared error is halved, and of the standardised target.
        losses.append([curve[e - 1] * (2 * sd ** 2 if data == 'diabetes' else 1) for e in EPOCHS])
        own = []
        for k in range(5):
            s = StandardScaler().fit(X[fold != k])
            m = model(data, values, seed).fit(s.transform(X[fold != k]), t[fold != k])
            said = m.predict(s.transform(X[fold == k]))
            own.append(mean_squared_error(y[fold == k], said * sd + y.mean()) if data == 'diabetes'
                       else accuracy_score(y[fold == k], said))
        scores.append(float(np.mean(own)))
    # Their loss has the penalty of the weights in it: only a small one leaves it what it is.
    epochs = [] if values.get('decay', 0) > 0.01 else EPOCHS
    return dict(data=data, values=dict(values, epochs=EPOCHS[-1]), epochs=epochs, losses=losses, scores=scores)


runs = [run(data, values) for data in DATA for values in (
    dict(layers='20', activation='relu', learning_rate=0.01, batch=32),
    dict(layers='12,6', activation='tanh', learning_rate=0.003, batch=50),
    dict(layers='10', activation='relu', learning_rate=0.05, batch=32, optimiser='gradient'),
    dict(layers='20', activation='relu', learning_rate=0.01, batch=32, decay=10))]
json.dump(dict(versions=dict(sklearn=sklearn.__version__, python=sys.version.split()[0]), runs=runs), sys.stdout)
