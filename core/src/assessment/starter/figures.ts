import { metricNamed } from '../../metrics/registry.js';
import type { StarterRequest } from './request.js';

/** How a notebook computes a figure of rows that their model has not seen. */
export interface StarterFigure {
  readonly name: string;
  /** Functions that are fetched from `sklearn.metrics`; none in R. */
  readonly imports: readonly string[];
  readonly expression: string;
  /** Whether it is the metric that was asked for, and not one in its place. */
  readonly isAsked: boolean;
}

type Labels = Pick<StarterRequest, 'positive' | 'labels'>;

const text = (value: string): string => JSON.stringify(value);
const positiveOf = ({ positive, labels }: Labels): string => positive ?? labels.at(-1) ?? '';
const negativeOf = (of: Labels): string => of.labels.find((label) => label !== positiveOf(of)) ?? '';

/**
 * The figure of a request in Python or R: that of its metric, or accuracy or the root mean squared error where the language
 * has none.
 */
export function starterFigure(request: StarterRequest, language: 'python' | 'r'): StarterFigure {
  const { task, metric } = request;
  const usual = task === 'regression' ? 'rmse' : 'accuracy';
  const codeOf = (key: string) =>
    language === 'python' ? pythonExpression(key, request) : rExpression(key, request);
  const asked = codeOf(metric ?? usual);
  const key = asked === null ? usual : (metric ?? usual);
  const expression = asked ?? codeOf(usual) ?? '';
  return {
    name: metricNamed(key).name,
    imports:
      language === 'python'
        ? [...new Set(expression.match(/\b[a-z][a-z0-9_]*_(?:score|loss|error|coef|corrcoef)(?=\()/g) ?? [])]
        : [],
    expression,
    isAsked: asked !== null,
  };
}

/** Says what is computed over the folds. */
export const figureWords = (
  { metric, isScreened = false }: StarterRequest,
  { name, isAsked }: StarterFigure,
): string =>
  [
    'Each row is predicted by a model that has not seen it.',
    metric === undefined || isAsked
      ? ''
      : `The ${metricNamed(metric).name} would take more than a line: here it is the ${name}.`,
    isScreened
      ? 'The columns were kept by a screening of all training rows, those that are tested here included: the figure may be better than one whose screening is learned in every fold.'
      : '',
  ]
    .filter((sentence) => sentence !== '')
    .join(' ');

/** Of `truth`, `said` and, of classes, `chances` with a column for each class; null where scikit-learn has none. */
function pythonExpression(key: string, labels: Labels): string | null {
  const yes = text(positiveOf(labels));
  const no = text(negativeOf(labels));
  const averaged = /^(macro|micro|weighted)_(precision|recall|f1|jaccard)$/.exec(key);
  if (averaged) return `${averaged[2]}_score(truth, said, average="${averaged[1]}", zero_division=0)`;
  const pinball = /^pinball_(\d+)$/.exec(key)?.[1];
  if (pinball !== undefined) return `mean_pinball_loss(truth, said, alpha=${Number(pinball) / 100})`;
  const several = (way: string) =>
    `roc_auc_score(truth, chances, multi_class="${way}", labels=list(chances.columns))`;
  const weighted = (weights: string) =>
    `cohen_kappa_score(truth, said, weights="${weights}", labels=[${labels.labels.map(text).join(', ')}])`;
  const known: Readonly<Record<string, string>> = {
    accuracy: 'accuracy_score(truth, said)',
    error_rate: '1 - accuracy_score(truth, said)',
    balanced_accuracy: 'balanced_accuracy_score(truth, said)',
    precision: `precision_score(truth, said, pos_label=${yes}, zero_division=0)`,
    recall: `recall_score(truth, said, pos_label=${yes})`,
    specificity: `recall_score(truth, said, pos_label=${no})`,
    npv: `precision_score(truth, said, pos_label=${no}, zero_division=0)`,
    fpr: `1 - recall_score(truth, said, pos_label=${no})`,
    fnr: `1 - recall_score(truth, said, pos_label=${yes})`,
    f1: `f1_score(truth, said, pos_label=${yes}, zero_division=0)`,
    f2: `fbeta_score(truth, said, beta=2, pos_label=${yes}, zero_division=0)`,
    f_half: `fbeta_score(truth, said, beta=0.5, pos_label=${yes}, zero_division=0)`,
    jaccard: `jaccard_score(truth, said, pos_label=${yes}, zero_division=0)`,
    kappa: 'cohen_kappa_score(truth, said)',
    kappa_linear: weighted('linear'),
    kappa_quadratic: weighted('quadratic'),
    mcc: 'matthews_corrcoef(truth, said)',
    average_precision: `average_precision_score(truth == ${yes}, chances[${yes}])`,
    roc_auc: `roc_auc_score(truth == ${yes}, chances[${yes}])`,
    roc_auc_one_vs_rest: several('ovr'),
    roc_auc_one_vs_one: several('ovo'),
    log_loss: 'log_loss(truth, chances, labels=list(chances.columns))',
    brier: `brier_score_loss(truth == ${yes}, chances[${yes}])`,
    rmse: 'mean_squared_error(truth, said) ** 0.5',
    mse: 'mean_squared_error(truth, said)',
    mae: 'mean_absolute_error(truth, said)',
    median_ae: 'median_absolute_error(truth, said)',
    mape: 'mean_absolute_percentage_error(truth, said)',
    rmsle: 'mean_squared_log_error(truth, said) ** 0.5',
    r2: 'r2_score(truth, said)',
    explained_variance: 'explained_variance_score(truth, said)',
    max_error: 'max_error(truth, said)',
    mean_error: '(said - truth).mean()',
    pearson: 'truth.corr(pd.Series(said, truth.index))',
    spearman: 'truth.corr(pd.Series(said, truth.index), method="spearman")',
  };
  return known[key] ?? null;
}

/** Of `truth`, `said` and, of classes, `chances`, a matrix with a column for each of `labels`; null where it takes more than a line. */
function rExpression(key: string, labels: Labels): string | null {
  const yes = text(positiveOf(labels));
  const chance = `chances[, ${labels.labels.indexOf(positiveOf(labels)) + 1}]`;
  const known: Readonly<Record<string, string>> = {
    accuracy: 'mean(said == truth)',
    error_rate: 'mean(said != truth)',
    balanced_accuracy: 'mean(tapply(said == truth, factor(as.character(truth)), mean))',
    precision: `mean(truth[said == ${yes}] == ${yes})`,
    recall: `mean(said[truth == ${yes}] == ${yes})`,
    specificity: `mean(said[truth != ${yes}] != ${yes})`,
    npv: `mean(truth[said != ${yes}] != ${yes})`,
    fpr: `mean(said[truth != ${yes}] == ${yes})`,
    fnr: `mean(said[truth == ${yes}] != ${yes})`,
    f1: `2 * sum(said == ${yes} & truth == ${yes}) / (sum(said == ${yes}) + sum(truth == ${yes}))`,
    jaccard: `sum(said == ${yes} & truth == ${yes}) / sum(said == ${yes} | truth == ${yes})`,
    // The share of pairs in which the positive row has the larger probability: Wilcoxon's statistic.
    roc_auc: `(mean(rank(${chance})[truth == ${yes}]) - (sum(truth == ${yes}) + 1) / 2) / sum(truth != ${yes})`,
    log_loss:
      '-mean(log(pmin(pmax(chances[cbind(seq_along(truth), match(as.character(truth), labels))], 2^-52), 1 - 2^-52)))',
    brier: `mean((${chance} - (truth == ${yes}))^2)`,
    rmse: 'sqrt(mean((said - truth)^2))',
    mse: 'mean((said - truth)^2)',
    mae: 'mean(abs(said - truth))',
    median_ae: 'median(abs(said - truth))',
    mape: 'mean(abs((said - truth) / truth))',
    rmsle: 'sqrt(mean((log1p(said) - log1p(truth))^2))',
    r2: '1 - sum((said - truth)^2) / sum((truth - mean(truth))^2)',
    max_error: 'max(abs(said - truth))',
    mean_error: 'mean(said - truth)',
    pearson: 'cor(said, truth)',
    spearman: 'cor(said, truth, method = "spearman")',
  };
  return known[key] ?? null;
}
