"""More ONNX files with the predictions of the library that fitted them: forms that other converters write.

Debian: apt-get install python3-sklearn python3-pandas python3-onnx
Run:    /usr/bin/python3 -W ignore more_models.py OUTDIR
"""
import json
import os
import sys

import numpy as np
import pandas as pd
import sklearn
from onnx import TensorProto as T, TypeProto, helper as H, numpy_helper, save as save_onnx
from sklearn import datasets
from sklearn.linear_model import LinearRegression, LogisticRegression
from sklearn.neural_network import MLPClassifier
from sklearn.tree import DecisionTreeClassifier

OUT = sys.argv[1]
ML = 'ai.onnx.ml'


def load(name):
    b = getattr(datasets, f'load_{name}')(as_frame=True)
    x = b.data.rename(columns=lambda c: c.replace(' (cm)', '').replace(' ', '_').replace('/', '_per_'))
    return x.astype('float32').astype(float), b.target.to_numpy(), [str(n) for n in getattr(b, 'target_names', [])]


def info(name, kind, shape):
    return H.make_tensor_value_info(name, kind, shape)


def model(nodes, inputs, outputs, init=(), opset=15, ml=2, ir=8):
    graph = H.make_graph(nodes, 'g', inputs, outputs, list(init))
    return H.make_model(graph, opset_imports=[H.make_opsetid('', opset), H.make_opsetid(ML, ml)], ir_version=ir)


def save(name, onnx, x, expected, task, tolerance, **more):
    folder = os.path.join(OUT, name)
    os.makedirs(folder, exist_ok=True)
    save_onnx(onnx, os.path.join(folder, 'model.onnx'))
    x = x.copy()
    x.insert(0, 'id', [f'm{i:04d}' for i in range(len(x))])
    x.to_csv(os.path.join(folder, 'data.csv'), index=False)
    clean = json.loads(json.dumps(expected, default=lambda v: v.tolist()))
    source = f'scikit-learn {sklearn.__version__}'
    with open(os.path.join(folder, 'expected.json'), 'w') as f:
        json.dump(dict(source=source, task=task, tolerance=tolerance, **more, expected=clean), f, indent=1)


def classes(m, x, names):
    p = m.predict_proba(x)
    return dict(prediction=[names[c] for c in m.predict(x)], p={names[c]: p[:, i] for i, c in enumerate(m.classes_)})


def floor32(t):
    f = np.float32(t)
    return float(f if f <= t else np.nextafter(f, np.float32(-np.inf)))


def tree(m, double=False):
    t = m.tree_
    leaf = t.children_left < 0
    nodes = dict(
        nodes_treeids=[0] * t.node_count,
        nodes_nodeids=list(range(t.node_count)),
        nodes_featureids=[int(max(0, f)) for f in t.feature],
        nodes_modes=['LEAF' if l else 'BRANCH_LEQ' for l in leaf],
        nodes_truenodeids=[0 if l else int(c) for l, c in zip(leaf, t.children_left)],
        nodes_falsenodeids=[0 if l else int(c) for l, c in zip(leaf, t.children_right)],
        nodes_missing_value_tracks_true=[0] * t.node_count,
    )
    weights = [(j, c, float(v / t.value[j][0].sum())) for j in np.where(leaf)[0] for c, v in enumerate(t.value[j][0])]
    nodes.update(class_treeids=[0] * len(weights), class_nodeids=[int(j) for j, _, _ in weights], class_ids=[c for _, c, _ in weights])
    values = [0.0 if l else float(v) for l, v in zip(leaf, t.threshold)]
    if double:
        nodes['nodes_values_as_tensor'] = numpy_helper.from_array(np.array(values))
        nodes['class_weights_as_tensor'] = numpy_helper.from_array(np.array([w for _, _, w in weights]))
    else:
        nodes['nodes_values'] = [floor32(v) for v in values]
        nodes['class_weights'] = [w for _, _, w in weights]
    return nodes


def int_maps():
    t = TypeProto()
    t.sequence_type.elem_type.map_type.key_type = T.INT64
    t.sequence_type.elem_type.map_type.value_type.tensor_type.elem_type = T.FLOAT
    return H.make_value_info('maps', t)


# Labels that are integers, maps with integer keys, an old operator set.
x, y, _ = load('wine')
m = DecisionTreeClassifier(max_depth=3, random_state=0).fit(x, y)
nodes = [
    H.make_node('TreeEnsembleClassifier', ['X'], ['label', 'raw'], domain=ML, classlabels_int64s=[0, 1, 2], post_transform='NONE', **tree(m)),
    H.make_node('ZipMap', ['raw'], ['maps'], domain=ML, classlabels_int64s=[0, 1, 2]),
]
save('onnx-integer-labels-wine', model(nodes, [info('X', T.FLOAT, [None, 13])], [info('label', T.INT64, [None]), int_maps()], opset=9, ml=1, ir=4),
     x[::5], classes(m, x[::5], ['0', '1', '2']), 'multiclass', 1e-5)

# Doubles throughout, thresholds as a tensor, a new operator set.
nodes = [H.make_node('TreeEnsembleClassifier', ['X'], ['label', 'raw'], domain=ML, classlabels_strings=['a', 'b', 'c'], post_transform='NONE', **tree(m, True))]
save('onnx-double-wine', model(nodes, [info('X', T.DOUBLE, ['N', 13])], [info('label', T.STRING, [None]), info('raw', T.FLOAT, [None, 3])], opset=19, ml=3, ir=9),
     x[::5], classes(m, x[::5], ['a', 'b', 'c']), 'multiclass', 1e-6)

# A linear model as matrices of doubles.
x, y, _ = load('diabetes')
r = LinearRegression().fit(x, y)
init = [numpy_helper.from_array(r.coef_.reshape(-1, 1), 'w'), numpy_helper.from_array(np.array([r.intercept_]), 'b')]
nodes = [H.make_node('MatMul', ['X', 'w'], ['h']), H.make_node('Add', ['h', 'b'], ['Y'])]
save('onnx-matrices-diabetes', model(nodes, [info('X', T.DOUBLE, [None, 10])], [info('Y', T.DOUBLE, [None, 1])], init, opset=21, ir=10),
     x[::20], dict(prediction=r.predict(x[::20])), 'regression', 1e-9)

# One row at a time.
save('onnx-single-rows-diabetes', model(nodes, [info('X', T.DOUBLE, [1, 10])], [info('Y', T.DOUBLE, [1, 1])], init, opset=13, ir=7),
     x[::40], dict(prediction=r.predict(x[::40])), 'regression', 1e-9)

# An output for each class.
x, y, names = load('iris')
m = LogisticRegression(max_iter=2000).fit(x, y)
linear = H.make_node('LinearClassifier', ['X'], ['label', 'p'], domain=ML, coefficients=m.coef_.ravel().tolist(), intercepts=m.intercept_.tolist(),
                     classlabels_strings=names, multi_class=1, post_transform='SOFTMAX')
init = [numpy_helper.from_array(np.array([i], dtype='int64'), f'i{i}') for i in range(3)]
picks = [H.make_node('Gather', ['p', f'i{i}'], [f'p{i}'], axis=1) for i in range(3)]
save('onnx-output-for-each-class-iris', model([linear] + picks, [info('X', T.FLOAT, [None, 4])], [info('label', T.STRING, [None])] + [info(f'p{i}', T.FLOAT, [None, 1]) for i in range(3)], init),
     x[::5], classes(m, x[::5], names), 'multiclass', 1e-5)

# Columns of several types.
d = pd.DataFrame(dict(frames=x.sepal_length.round().astype(int), weight=x.petal_length, old=x.sepal_width > 3))
z = d.astype(float)
m = LogisticRegression(max_iter=2000).fit(z, y == 2)
casts = [H.make_node('Cast', [c], [f'{c}_f'], to=T.FLOAT) for c in d]
joined = H.make_node('Concat', [f'{c}_f' for c in d], ['F'], axis=1)
head = H.make_node('LinearClassifier', ['F'], ['label', 'p'], domain=ML, coefficients=(-m.coef_[0]).tolist() + m.coef_[0].tolist(),
                   intercepts=[-float(m.intercept_[0]), float(m.intercept_[0])], classlabels_strings=['no', 'yes'], multi_class=0, post_transform='LOGISTIC')
kinds = dict(frames=T.INT64, weight=T.DOUBLE, old=T.BOOL)
save('onnx-typed-columns', model(casts + [joined, head], [info(c, kinds[c], [None, 1]) for c in d], [info('label', T.STRING, [None]), info('p', T.FLOAT, [None, 2])]),
     d[::5], classes(m, z[::5], ['no', 'yes']), 'binary', 1e-5)

# A network that names no classes: a sigmoid for two, a softmax for three.
x, y, names = load('breast_cancer')
scale = x.abs().max()
n = MLPClassifier((6,), max_iter=400, random_state=0).fit(x / scale, y)


def layers(n, last):
    init = [numpy_helper.from_array((n.coefs_[0] / scale.to_numpy()[:, None]).astype('float32'), 'w0')]
    init += [numpy_helper.from_array(n.coefs_[1].astype('float32'), 'w1')]
    init += [numpy_helper.from_array(b.astype('float32'), f'b{i}') for i, b in enumerate(n.intercepts_)]
    ops = [H.make_node('Gemm', ['X', 'w0', 'b0'], ['g0']), H.make_node('Relu', ['g0'], ['h0']), H.make_node('Gemm', ['h0', 'w1', 'b1'], ['g1'])]
    return ops + [H.make_node(last, ['g1'], ['out'])], init


ops, init = layers(n, 'Sigmoid')
save('onnx-sigmoid-cancer', model(ops, [info('X', T.FLOAT, [None, 30])], [info('out', T.FLOAT, [None, 1])], init),
     x[::10], classes(n, x[::10] / scale, names), 'binary', 1e-4, positive=names[1], negative=names[0])
x, y, names = load('iris')
scale = x.abs().max()
n = MLPClassifier((6,), max_iter=2000, random_state=0).fit(x / scale, y)
ops, init = layers(n, 'Softmax')
save('onnx-softmax-iris', model(ops, [info('X', T.FLOAT, [None, None])], [info('out', T.FLOAT, [None, 3])], init),
     x[::5], classes(n, x[::5] / scale, names), 'multiclass', 1e-4, labels=names)
