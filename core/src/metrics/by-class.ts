import { at } from '../foundation/numbers.js';
import { confusionCounts, labelCounts } from './confusion.js';
import { ratio, undefinedBecause, type Figure, type LabelData } from './metric.js';
import { areaOfLabel } from './definitions/probabilities/roc-auc.js';

/** Figures of one class against all others. */
export interface ClassFigures {
  readonly label: string;
  /** Rows of the class, and rows predicted so; or the sums of their weights. */
  readonly rows: number;
  readonly predicted: number;
  readonly figures: Readonly<
    Record<'precision' | 'recall' | 'specificity' | 'npv' | 'f1' | 'jaccard' | 'roc_auc', Figure>
  >;
}

/** Figures of every class, in label order (scikit-learn, precision_recall_fscore_support without an average). */
export function byClass(data: LabelData): ClassFigures[] {
  const counts = confusionCounts(data);
  return data.labels.map((label, code) => {
    const { tp, fn, fp, tn } = labelCounts(counts, code);
    const neither = `no row is of class “${label}” or was predicted so`;
    const area = data.probabilities ? areaOfLabel(data, data.probabilities, code) : null;
    return {
      label,
      rows: tp + fn,
      predicted: tp + fp,
      figures: {
        precision: ratio(tp, tp + fp, `no row was predicted as “${label}”`),
        recall: ratio(tp, tp + fn, `no row is of class “${label}”`),
        specificity: ratio(tn, tn + fp, `every row is of class “${label}”`),
        npv: ratio(tn, tn + fn, `every row was predicted as “${label}”`),
        f1: ratio(2 * tp, 2 * tp + fp + fn, neither),
        jaccard: ratio(tp, tp + fp + fn, neither),
        roc_auc:
          area === null
            ? undefinedBecause('no probabilities were given')
            : Number.isNaN(area)
              ? undefinedBecause(`no row, or every row, is of class “${label}”`)
              : { value: area },
      },
    };
  });
}

/** Pairs of classes that are confused, the most frequent first. */
export function confusedPairs(
  data: LabelData,
): { readonly truth: string; readonly predicted: string; readonly rows: number }[] {
  return confusionCounts(data)
    .flatMap((row, truth) =>
      row.map((rows, predicted) => ({
        truth: at(data.labels, truth),
        predicted: at(data.labels, predicted),
        rows: truth === predicted ? 0 : rows,
      })),
    )
    .filter(({ rows }) => rows > 0)
    .sort((a, b) => b.rows - a.rows);
}
