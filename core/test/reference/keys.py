"""Keys that are computed from data and from models, by pandas, SciPy, scikit-learn and statsmodels.

The table is scikit-learn's diabetes data (Efron, Hastie, Johnstone and Tibshirani, 2004) on its own units, with a sex as a
letter, a column of age groups, every 13th blood pressure missing, and two rows repeated; it is written to keys.csv.

Debian: apt-get install python3-sklearn python3-statsmodels python3-pandas
Run:    /usr/bin/python3 keys.py > keys.json
"""
import json
import numpy as np, pandas as pd, scipy, sklearn, statsmodels
import statsmodels.api as sm
from scipy import stats
from sklearn import metrics as m
from sklearn.datasets import load_diabetes
from sklearn.linear_model import ElasticNet, Lasso, Ridge
from sklearn.naive_bayes import GaussianNB
from sklearn.preprocessing import OneHotEncoder, StandardScaler
from sklearn.tree import DecisionTreeClassifier, DecisionTreeRegressor
from statsmodels.stats.diagnostic import het_breuschpagan
from statsmodels.stats.outliers_influence import variance_inflation_factor
from statsmodels.stats.stattools import durbin_watson
from statsmodels.tsa.stattools import acf

raw = load_diabetes(as_frame=True, scaled=False)
d = raw.data[['age', 'sex', 'bmi', 'bp', 's5']].copy()
d['sex'] = np.where(d.sex == 1, 'f', 'm')
d['ages'] = pd.cut(d.age, [0, 40, 60, 200], right=False, labels=['below 40', 'from 40', 'from 60']).astype(str)
d.loc[d.index % 13 == 4, 'bp'] = np.nan
d['progress'] = raw.target
d['high'] = np.where(raw.target > 140, 'yes', 'no')
d = pd.concat([d, d.iloc[[3, 9]]], ignore_index=True)
d.to_csv('keys.csv', index=False)
d = pd.read_csv('keys.csv')

y, positive = d.progress, (d.high == 'yes').astype(int)
filled = d.assign(bp=d.bp.fillna(d.bp.median()))
dummies = pd.get_dummies(filled[['age', 'sex', 'bmi', 'bp', 's5', 'ages']], drop_first=True).astype(float)
design = dummies[['age', 'sex_m', 'bmi', 'bp', 's5', 'ages_from 40', 'ages_from 60']]
places = np.arange(len(d)) % 5
cases = []


def case(kind, values, expected, of='progress'):
    plain = {k: v if isinstance(v, (list, str)) else float(v) for k, v in expected.items()}
    cases.append({'kind': kind, 'of': of, 'values': {'asked': list(expected), **values}, 'expected': plain})


case('table-counts', {'columns': []}, {'rows': len(d), 'columns': d.shape[1], 'complete rows': d.dropna().shape[0],
     'rows with a missing cell': d.isna().any(axis=1).sum(), 'rows that repeat an earlier one': d.duplicated().sum()})
case('table-counts', {'columns': ['sex', 'ages']}, {'columns': 2, 'rows that repeat an earlier one': d.duplicated(['sex', 'ages']).sum()})
q1, q3 = d.bp.quantile([.25, .75])
case('column-summary', {'column': 'bp'}, {'mean': d.bp.mean(), 'median': d.bp.median(), 'standard deviation': d.bp.std(), 'lower quartile': q1,
     'upper quartile': q3, 'interquartile range': q3 - q1, 'skewness': d.bp.skew(), 'smallest': d.bp.min(), 'largest': d.bp.max(),
     'missing cells': d.bp.isna().sum(), 'distinct values': d.bp.nunique()})
case('column-counts', {'column': 'ages'}, {'missing cells': 0, 'distinct values': d.ages.nunique(), 'rows of the commonest value': d.ages.value_counts().max(),
     'share of the commonest value': d.ages.value_counts(normalize=True).max(), 'commonest value': [d.ages.mode()[0]]})
case('column-counts', {'column': 'bp'}, {'missing cells': d.bp.isna().sum(), 'share of missing cells': d.bp.isna().mean(), 'distinct values': d.bp.nunique()})
is60 = d.ages == 'from 60'
for of, target in ('progress', y), ('high', positive):
    case('target-by-value', {'column': 'ages', 'value': 'from 60'}, {'rows of the value': is60.sum(), 'share of the rows': is60.mean(),
         'target of the value': target[is60].mean(), 'target of all others': target[~is60].mean(),
         'difference of the two': target[is60].mean() - target[~is60].mean()}, of)
bmi = d.groupby('ages').bmi
case('by-group', {'column': 'bmi', 'by': 'ages', 'group': 'from 40'}, {'rows': bmi.size()['from 40'], 'mean': bmi.mean()['from 40'], 'median': bmi.median()['from 40'],
     'standard deviation': bmi.std()['from 40'], 'group of the largest mean': [bmi.mean().idxmax()], 'group of the smallest mean': [bmi.mean().idxmin()]})
cross = pd.crosstab(d.ages, d.sex)
gm = y - y.mean()
between = sum(len(g) * (g.mean() - y.mean()) ** 2 for _, g in y.groupby(d.ages))
for measure, one, other, value in (('pearson', 'bmi', 'bp', d.bmi.corr(d.bp)), ('spearman', 'bmi', 'bp', d.bmi.corr(d.bp, 'spearman')),
                                   ('cramers-v', 'ages', 'sex', stats.contingency.association(cross, 'cramer')),
                                   ('correlation-ratio', 'ages', 'progress', np.sqrt(between / (gm ** 2).sum()))):
    case('correlation', {'column': one, 'other': other, 'measure': measure}, {'*': value})
strength = d[['age', 'bmi', 'bp', 's5', 'progress']].corr().progress.drop('progress').abs()
case('strongest-correlation', {'column': 'progress', 'measure': 'pearson'}, {'strongest': [strength.idxmax()]})
far = ((d.bmi < d.bmi.quantile(.25) - 1.5 * (d.bmi.quantile(.75) - d.bmi.quantile(.25))) | (d.bmi > d.bmi.quantile(.75) + 1.5 * (d.bmi.quantile(.75) - d.bmi.quantile(.25)))).sum()
rare = (d.groupby('ages').ages.transform('size') < 100).sum()
for rule, values, dropped in (('condition', {'condition': 'bp > 90 and sex == "f"'}, (~((d.bp > 90) & (d.sex == 'f'))).sum()), ('rare', {'column': 'ages', 'fewest': 100}, rare),
                              ('outliers', {'column': 'bmi', 'times': 1.5}, far), ('repeats', {}, d.duplicated().sum())):
    case('rows-left', {'rule': rule, **values}, {'rows left': len(d) - dropped, 'rows dropped': dropped, 'share dropped': dropped / len(d)})
case('dummy-columns', {'columns': ['sex', 'ages', 'high']}, {
     'dummy columns, one value left out of each': OneHotEncoder(drop='first').fit_transform(d[['sex', 'ages', 'high']]).shape[1],
     'dummy columns, one for each value': OneHotEncoder().fit_transform(d[['sex', 'ages', 'high']]).shape[1],
     'columns of the design, one value left out of each': 4 + 4})

names = {'age': 'age', 'sex_m': 'sex = m', 'bmi': 'bmi', 'ages_from 40': 'ages = from 40'}
features = ['age', 'sex', 'bmi', 'bp', 's5', 'ages']
ols = sm.OLS(y, sm.add_constant(design)).fit()
logit = sm.Logit(positive, sm.add_constant(design)).fit(disp=0, maxiter=100, tol=1e-12)
for of, fit, model in ('progress', ols, 'linear'), ('high', logit, 'logistic'):
    for column, term in names.items():
        low, high = fit.conf_int().loc[column]
        odds = {'odds ratio': np.exp(fit.params[column]), 'odds ratio for k units': np.exp(10 * fit.params[column])} if of == 'high' else {}
        case('coefficient', {'model': model, 'features': features, 'term': term, 'units': 10},
             {'coefficient': fit.params[column], 'standard error of the coefficient': fit.bse[column], 'test statistic': fit.tvalues[column],
              'p': fit.pvalues[column], 'lower bound': low, 'upper bound': high, **odds}, of)
case('fit-figures', {'model': 'linear', 'features': features}, {'R² of the fit': ols.rsquared, 'adjusted R²': ols.rsquared_adj, 'F': ols.fvalue, 'p of F': ols.f_pvalue,
     'residual standard error': np.sqrt(ols.scale), 'log-likelihood': ols.llf, 'AIC': ols.aic, 'BIC': ols.bic})
case('fit-figures', {'model': 'logistic', 'features': features}, {'log-likelihood': logit.llf, 'deviance': -2 * logit.llf, 'AIC': logit.aic, 'BIC': logit.bic}, 'high')
bp = het_breuschpagan(ols.resid, sm.add_constant(design))
lags = acf(ols.resid, nlags=12, adjusted=False, fft=False)
band = 1.96 / np.sqrt(len(d))
case('residual-figures', {'model': 'linear', 'features': features, 'lag': 12}, {'Breusch–Pagan statistic': bp[0], 'Breusch–Pagan p': bp[1],
     'Durbin–Watson statistic': durbin_watson(ols.resid), 'autocorrelation at the lag': lags[12], 'half the width of the band': band,
     'lags outside the band': [str(lag) for lag in range(1, 13) if abs(lags[lag]) > band]})
vif = [variance_inflation_factor(sm.add_constant(design).values, i + 1) for i in range(design.shape[1])]
terms = ['age', 'sex = m', 'bmi', 'bp', 's5', 'ages = from 40', 'ages = from 60']
case('variance-inflation', {'features': features, 'term': 'bmi'}, {'variance inflation of the term': vif[2], 'term of the largest': [terms[int(np.argmax(vif))]]})

for penalty in 2, 12:
    lasso = Lasso(alpha=penalty, tol=1e-12, max_iter=100000).fit(StandardScaler().fit_transform(design), y)
    stay = [f for f in features if any(c != 0 and (t == f or t.startswith(f + ' = ')) for t, c in zip(terms, lasso.coef_))]
    case('nonzero-coefficients', {'model': f'lasso penalty={penalty}', 'features': features}, {'coefficients that are not 0': np.sum(lasso.coef_ != 0),
         'columns that stay': stay, 'columns that are dropped': [f for f in features if f not in stay]})

numbers = filled[['age', 'bmi', 's5']]
fold_scores = []
for k in range(5):
    tree = DecisionTreeRegressor(max_depth=2, random_state=0).fit(numbers[places != k], y[places != k])
    fold_scores.append(m.mean_squared_error(y[places == k], tree.predict(numbers[places == k])) ** 0.5)
whole = DecisionTreeRegressor(max_depth=2, random_state=0).fit(numbers, y)
train = m.mean_squared_error(y, whole.predict(numbers)) ** 0.5
case('model-score', {'model': 'tree depth=2', 'features': ['age', 'bmi', 's5'], 'metric': 'rmse', 'k': 5}, {'score on the training rows': train,
     'mean over the folds': np.mean(fold_scores), 'standard deviation over the folds': np.std(fold_scores, ddof=1), 'standard error over the folds': stats.sem(fold_scores),
     'best fold': np.argmin(fold_scores) + 1, 'score of the best fold': min(fold_scores), 'gap': np.mean(fold_scores) - train})
case('tree-shape', {'model': 'tree depth=2', 'features': ['age', 'bmi', 's5']}, {'threshold at the root': whole.tree_.threshold[0], 'leaves': whole.get_n_leaves(),
     'depth of the tree': whole.get_depth(), 'column at the root': [numbers.columns[whole.tree_.feature[0]]],
     'column of the largest importance': [numbers.columns[int(np.argmax(whole.feature_importances_))]]})
means = []
for depth in 1, 2, 3, 5, 8:
    of_depth = []
    for k in range(5):
        fit = DecisionTreeRegressor(max_depth=depth, random_state=0).fit(numbers[places != k], y[places != k])
        of_depth.append(m.mean_squared_error(y[places == k], fit.predict(numbers[places == k])) ** 0.5)
    means.append((depth, np.mean(of_depth), stats.sem(of_depth)))
best = min(means, key=lambda row: row[1])
case('best-setting', {'model': 'tree', 'features': ['age', 'bmi', 's5'], 'metric': 'rmse', 'k': 5}, {'best setting': [str(best[0])],
     'simplest within one standard error': [str(next(depth for depth, mean, _ in means if mean <= best[1] + best[2]))]})
said = ols.predict(sm.add_constant(design))
rmse = lambda rows: m.mean_squared_error(y[rows], said[rows]) ** 0.5
case('subgroup-score', {'model': 'linear', 'features': features, 'metric': 'rmse', 'by': 'ages', 'group': 'from 60'}, {'score of the subgroup': rmse(is60), 'score of all other rows': rmse(~is60),
     'difference of the two': rmse(is60) - rmse(~is60), 'subgroup with the worst score': [max(d.ages.unique(), key=lambda g: rmse(d.ages == g))]})
from sklearn.linear_model import LinearRegression
weights = np.where(is60, 5, 1)
for line, fit in ('linear', LinearRegression()), ('tree depth=3', DecisionTreeRegressor(max_depth=3, random_state=0)):
    plain, heavy = (fit.fit(numbers, y, sample_weight=w).predict(numbers) for w in (None, weights))
    error = lambda said, rows: m.mean_squared_error(y[rows], said[rows]) ** 0.5
    case('weighted-score', {'model': line, 'features': ['age', 'bmi', 's5'], 'metric': 'rmse', 'by': 'ages', 'group': 'from 60', 'weight': 5}, {
        'score of the subgroup': error(heavy, is60), 'score of all other rows': error(heavy, ~is60),
        'change on the subgroup': error(heavy, is60) - error(plain, is60), 'change on all other rows': error(heavy, ~is60) - error(plain, ~is60)})
folds = [(np.flatnonzero(places != k), np.flatnonzero(places == k)) for k in range(5)]
def over_penalties(grid):
    rows = []
    for penalty in grid:
        of_penalty = []
        for inside, outside in folds:
            scaler = StandardScaler().fit(numbers.iloc[inside])
            fit = Lasso(alpha=penalty).fit(scaler.transform(numbers.iloc[inside]), y.iloc[inside])
            of_penalty.append(m.mean_squared_error(y.iloc[outside], fit.predict(scaler.transform(numbers.iloc[outside]))) ** 0.5)
        rows.append((penalty, np.mean(of_penalty), stats.sem(of_penalty)))
    best = min(rows, key=lambda row: row[1])
    return best[0], max(penalty for penalty, mean, _ in rows if mean <= best[1] + best[2])
# scikit-learn's own grid, which is not that of the program.
largest = np.abs(StandardScaler().fit_transform(numbers).T @ (y - y.mean()).values).max() / len(y)
best, simplest = over_penalties(np.geomspace(largest, largest / 1000, 100))
case('best-penalty', {'model': 'lasso', 'features': ['age', 'bmi', 's5'], 'metric': 'rmse', 'k': 5, 'distance': 0.2}, {'best penalty': best, 'largest penalty within one standard error': simplest})
def log_loss(w):
    fit = sm.GLM(positive, sm.add_constant(numbers), family=sm.families.Binomial(), freq_weights=w).fit(tol=1e-14, maxiter=200)
    p = fit.predict(sm.add_constant(numbers))
    return [m.log_loss(positive[rows], p[rows]) for rows in (is60, ~is60)]
(own, others), (own_plain, others_plain) = log_loss(weights), log_loss(np.ones(len(d)))
case('weighted-score', {'model': 'logistic', 'features': ['age', 'bmi', 's5'], 'metric': 'log_loss', 'by': 'ages', 'group': 'from 60', 'weight': 5}, {
    'score of the subgroup': own, 'score of all other rows': others, 'change on the subgroup': own - own_plain, 'change on all other rows': others - others_plain}, 'high')
nb = GaussianNB(var_smoothing=0).fit(numbers, positive)
stump = DecisionTreeClassifier(max_depth=2, random_state=0).fit(numbers, positive)
alike = nb.predict(numbers) == stump.predict(numbers)
case('models-agree', {'model': 'naive-bayes kind=gaussian', 'second': 'tree depth=2', 'features': ['age', 'bmi', 's5']}, {'share alike': alike.mean(), 'rows that differ': (~alike).sum()}, 'high')
one = np.array([[1, 50, 1, 30, d.bp.median(), 4.5, 1, 0]])
cells = [['age', '50'], ['sex', 'm'], ['bmi', '30'], ['s5', '4.5'], ['ages', 'from 40']]
case('one-case', {'model': 'linear', 'features': features, 'cells': cells}, {'*': ols.predict(one)[0]})
case('one-case', {'model': 'logistic', 'features': features, 'cells': cells}, {'*': logit.predict(one)[0]}, 'high')
yes = d[d.high == 'yes']
case('likelihood', {'column': 'bmi', 'value': '31.5', 'class': 'yes', 'added': 1}, {'likelihood': stats.norm.pdf(31.5, yes.bmi.mean(), yes.bmi.std(ddof=0)), 'prior of the class': positive.mean(),
     'mean of the class': yes.bmi.mean(), 'standard deviation of the class': yes.bmi.std(ddof=0)}, 'high')
from sklearn.neighbors import KernelDensity
kernels = KernelDensity(bandwidth=2).fit(yes[['bmi']].values)
case('likelihood', {'column': 'bmi', 'value': '31.5', 'class': 'yes', 'added': 1, 'width': 2}, {'likelihood': np.exp(kernels.score([[31.5]])), 'mean of the class': yes.bmi.mean()}, 'high')
from sklearn.naive_bayes import CategoricalNB
codes = OneHotEncoder().fit(d[['ages']])
counted = CategoricalNB(alpha=1).fit(d.ages.astype('category').cat.codes.values[:, None], positive)
place = list(d.ages.astype('category').cat.categories).index('from 60')
case('likelihood', {'column': 'ages', 'value': 'from 60', 'class': 'yes', 'added': 1}, {'likelihood': np.exp(counted.feature_log_prob_[0][1, place]), 'prior of the class': positive.mean()}, 'high')

# What known mistakes give where a key is of a model.
mistakes = []


def mistake(slip, kind, values, figure, value):
    mistakes.append({'slip': slip, 'kind': kind, 'of': 'progress', 'values': values, 'figure': figure, 'value': float(value)})


scaled = StandardScaler().fit(numbers)


def slope(model):
    return model.fit(scaled.transform(numbers), y).coef_[1] / scaled.scale_[1]


ask = {'features': ['age', 'bmi', 's5'], 'term': 'bmi', 'units': 10, 'asked': ['coefficient']}
mistake('penalty-other-scale', 'coefficient', {**ask, 'model': 'ridge penalty=2'}, 'coefficient', slope(Ridge(alpha=2)))
mistake('penalty-mixing-exchanged', 'coefficient', {**ask, 'model': 'elastic-net penalty=0.8 mixing=0.3'}, 'coefficient', slope(ElasticNet(alpha=0.3, l1_ratio=0.8, tol=1e-12, max_iter=100000)))
over = {'model': 'tree depth=2', 'features': ['age', 'bmi', 's5'], 'metric': 'rmse', 'k': 5, 'asked': ['mean over the folds']}
mistake('training-rows', 'model-score', over, 'mean over the folds', train)
mistake('best-fold-for-mean', 'model-score', over, 'mean over the folds', min(fold_scores))

print(json.dumps({'versions': {lib.__name__: lib.__version__ for lib in (np, pd, scipy, sklearn, statsmodels)}, 'cases': cases, 'mistakes': mistakes}, indent=1, ensure_ascii=False))
