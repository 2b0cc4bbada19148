/** A coefficient with its inference; what is not known is null. */
export interface Coefficient {
  readonly term: string;
  /** The class whose log-odds it belongs to; null for a number or of two classes. */
  readonly label: string | null;
  /** Null for a term that follows from others. */
  readonly estimate: number | null;
  readonly se: number | null;
  /** t of a linear regression, z of a logistic one. */
  readonly statistic: number | null;
  readonly p: number | null;
  readonly low: number | null;
  readonly high: number | null;
  /** How much the odds are multiplied by one unit more, where the coefficient is of log-odds. */
  readonly oddsRatio: number | null;
}

/** A term that an elimination took out. */
export interface Removed {
  readonly feature: string;
  readonly p: number;
  /** Akaike's criterion with the feature and without it. */
  readonly aicWith: number;
  readonly aicWithout: number;
}

/** A model at one penalty of its path. */
export interface PathPoint {
  readonly penalty: number;
  readonly intercept: number;
  /** In the order of the path's terms, on the original scale; exactly 0 for a term that takes no part. */
  readonly coefficients: readonly number[];
  readonly nonzero: number;
  /** Share of the deviance of the null model that is explained. */
  readonly devianceRatio: number;
}

/** How much a feature brought to a model. */
export interface Importance {
  readonly feature: string;
  /** Of all of them 1. */
  readonly share: number;
}

/** The error of a model as it grew: after each tree, round, epoch or model. */
export interface Growth {
  readonly of: 'trees' | 'rounds' | 'epochs' | 'models';
  /** What the error is. */
  readonly measure: 'error rate' | 'mean squared error' | 'log loss' | 'quantile loss';
  /** On the training rows; null where it was not computed. */
  readonly training: readonly number[] | null;
  /** On rows that were held out while it grew; null where there are none, null in a place where no row was held out so far. */
  readonly heldOut: {
    readonly rows: 'out of bag' | 'validation';
    readonly values: readonly (number | null)[];
  } | null;
}

/** A model of a combination. */
export interface MemberShare {
  /** Its family and the settings that it does not begin with. */
  readonly model: string;
  /** What its family is called. */
  readonly title: string;
  /** How much it counts; of all of them 1. */
  readonly weight: number;
  /** On training rows that it has not seen: mean squared error, of classes Brier’s score; null where that was not computed. */
  readonly error: number | null;
}

/** What a model has to show of itself, apart from its predictions. */
export interface Description {
  readonly coefficients?: readonly Coefficient[];
  readonly removed?: readonly Removed[];
  /** Figures of the fit by their key: r2, adjusted_r2, f, f_p, sigma, aic, bic, log_likelihood, deviance … */
  readonly figures?: Readonly<Record<string, number>>;
  readonly path?: { readonly terms: readonly string[]; readonly points: readonly PathPoint[] };
  readonly growth?: Growth;
  /** Of a combination. */
  readonly members?: readonly MemberShare[];
  /** Impurity or gain by feature, the largest first. */
  readonly importances?: readonly Importance[];
}

export const INTERCEPT = '(intercept)';

/** A coefficient without inference. */
export const bareCoefficient = (
  term: string,
  estimate: number,
  label: string | null = null,
): Coefficient => ({
  term,
  label,
  estimate,
  se: null,
  statistic: null,
  p: null,
  low: null,
  high: null,
  oddsRatio: null,
});
