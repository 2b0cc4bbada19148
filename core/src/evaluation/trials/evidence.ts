import { diagnoseResiduals, type ResidualDiagnostics } from '../diagnostics/diagnose.js';
import { influence } from '../diagnostics/influence.js';
import { varianceInflation } from '../diagnostics/vif.js';
import { figureOf, type Judged } from '../../metrics/judged.js';
import type { Figure, LabelData, Metric, NumberData } from '../../metrics/metric.js';
import { bySubgroup, type SubgroupFigures } from '../../metrics/subgroups.js';
import { at, indices, quantile, shortNumber } from '../../foundation/numbers.js';
import type { Design } from '../../models/prepared/design.js';
import { strataOf } from '../../splitting/algorithms/strata.js';
import { groupCodes, type Labelled } from '../../data/table/labels.js';
import type { Task } from '../../data/table/roles.js';
import { columnNamed, takeRows, type Table } from '../../data/table/table.js';
import { boxesOf, type Boxes } from '../../data/profile/boxes.js';
import { classEvidence, type ClassEvidence } from './class-evidence.js';
import { thinned } from './thinned.js';
import { largestErrors, type LargestError } from './largest-errors.js';
import { trialMetrics, usualMetrics, type Figures } from './metrics.js';

/** Points that a plot is given, evenly taken. */
const MOST_POINTS = 1000;
/** Runs of the target that a regression's errors are listed for. */
const TARGET_RUNS = 5;
/** Columns of a design for which inflation is worked out. */
const MOST_INFLATED = 60;
const MOST_GROUPS = 1000;
const MOST_INFLUENTIAL = 10;

/** What predictions of rows say of a model. */
export interface Evidence {
  readonly rows: number;
  readonly figures: Figures;
  readonly classes: ClassEvidence | null;
  readonly numbers: NumberEvidence | null;
  /** By the values of a column, or fifths of its numbers; none where no column was asked for. */
  readonly groups: readonly SubgroupFigures[];
  /** How many there are beyond those. */
  readonly groupsLeftOut: number;
  /** Of numbers, truth less prediction by the same values; null of classes, and where no column was asked for. */
  readonly residualBoxes: Boxes | null;
  /** By class, or by runs of the target. */
  readonly levels: readonly TargetLevel[];
  readonly largest: readonly LargestError[];
}

export interface NumberEvidence {
  readonly points: readonly { readonly truth: number; readonly predicted: number }[];
  readonly diagnostics: ResidualDiagnostics;
  /** Of the columns of the design, where they are few enough. */
  readonly inflation: readonly { readonly term: string; readonly vif: number | null }[];
  /** The rows that pull a linear fit most, by Cook's distance; none of other fits. */
  readonly influential: readonly {
    /** Number of the row in the version, from 1. */
    readonly row: number;
    readonly leverage: number;
    readonly cooks: number;
  }[];
}

/** How a model does on rows of one class, or of a run of the target. */
export interface TargetLevel {
  readonly level: string;
  readonly rows: number;
  /** Share of the rows that are right, or root mean squared error. */
  readonly figure: number;
  /** Of numbers: mean of prediction less truth. */
  readonly meanError: number | null;
}

export interface EvidenceRequest {
  readonly table: Table;
  readonly task: Task;
  /** The metric by which the run is judged: subgroups have it beside the usual ones. */
  readonly metric: string;
  /** Predictions of the rows, in their order. */
  readonly judged: Judged;
  readonly rows: Int32Array;
  /** Asked for of numbers alone. */
  readonly design: () => Design;
  /** The column whose values split the rows; null for none. */
  readonly by: string | null;
  /** The column whose rows resemble one another; null for none. */
  readonly group: string | null;
  /** Whether these are the very rows that a linear regression was fitted to, whose influence can be computed. */
  readonly isLinearFit: boolean;
  /** The column that names rows; null for their number. */
  readonly identifier: string | null;
}

/**
 * What predictions say: figures, curves or residuals, errors by subgroup and by target, the rows that are worst.
 *
 * @throws SieveError `no-such-column` for the column that parts the rows
 */
export function evidenceOf(request: EvidenceRequest): Evidence {
  const { task, judged, rows } = request;
  const metrics = trialMetrics(task);
  const groups =
    request.by === null ? null : strataOf(takeRows(columnNamed(request.table, request.by), rows));
  return {
    rows: rows.length,
    figures: Object.fromEntries(
      metrics.map((metric): [string, Figure] => [metric.key, figureOf(metric, judged)]),
    ),
    classes: judged.kind === 'labels' ? classEvidence(judged.data, groupsOf(request)) : null,
    numbers: judged.kind === 'numbers' ? numberEvidence(judged.data, request) : null,
    ...groupEvidence(judged, groups, usualMetrics(task, request.metric)),
    residualBoxes: groups && residualBoxes(judged, { name: request.by ?? '', ...groups }),
    levels: judged.kind === 'labels' ? classLevels(judged.data) : targetRuns(judged.data),
    largest: largestErrors(request),
  };
}

/** Figures of the subgroups, of very many those with most rows. */
function groupEvidence(
  judged: Judged,
  groups: Labelled | null,
  metrics: readonly Metric[],
): Pick<Evidence, 'groups' | 'groupsLeftOut'> {
  if (!groups) return { groups: [], groupsLeftOut: 0 };
  const all = bySubgroup(judged, groups, metrics);
  const most = new Set([...all].sort((a, b) => b.rows - a.rows).slice(0, MOST_GROUPS));
  const shown = all.filter((group) => most.has(group));
  return { groups: shown, groupsLeftOut: all.length - shown.length };
}

/** Residuals by the values of a column, of the rows that have one. */
function residualBoxes(judged: Judged, groups: Labelled & { readonly name: string }): Boxes | null {
  if (judged.kind !== 'numbers') return null;
  const { truth, predicted } = judged.data;
  const values = truth.map((value, i) => value - at(predicted, i));
  const rows = indices(truth.length).filter((row) => at(groups.codes, row) >= 0);
  return rows.length === 0 ? null : boxesOf(groups, { name: 'residual', values }, rows);
}

/** Code of the group of each row; a row without one is a group of its own. */
function groupsOf({ table, group, rows }: EvidenceRequest): Int32Array | null {
  if (group === null) return null;
  return groupCodes(takeRows(columnNamed(table, group), rows));
}

function numberEvidence(
  { truth, predicted }: NumberData,
  { design, rows, isLinearFit }: EvidenceRequest,
): NumberEvidence {
  const { terms, columns } = design();
  const residuals = truth.map((value, i) => value - at(predicted, i));
  const points = Array.from(truth, (value, i) => ({ truth: value, predicted: at(predicted, i) }));
  const few = columns.length <= MOST_INFLATED && columns.length + 1 < truth.length ? columns : [];
  return {
    points: thinned(points, MOST_POINTS),
    diagnostics: diagnoseResiduals(residuals, few),
    inflation: varianceInflation(few).map((vif, c) => ({ term: at(terms, c).name, vif })),
    influential: isLinearFit && few.length > 0 ? influential(few, truth, rows) : [],
  };
}

function influential(columns: readonly Float64Array[], y: Float64Array, rows: Int32Array) {
  const { leverage, cooks } = influence(columns, y);
  return Array.from(cooks.keys())
    .sort((a, b) => at(cooks, b) - at(cooks, a))
    .slice(0, MOST_INFLUENTIAL)
    .map((i) => ({ row: at(rows, i) + 1, leverage: at(leverage, i), cooks: at(cooks, i) }));
}

const classLevels = ({ labels, truth, predicted }: LabelData): TargetLevel[] =>
  labels.flatMap((level, code) => {
    let [rows, right] = [0, 0];
    truth.forEach((own, i) => {
      if (own !== code) return;
      rows++;
      if (predicted[i] === code) right++;
    });
    return rows > 0 ? [{ level, rows, figure: right / rows, meanError: null }] : [];
  });

/** Runs of the target with about equally many rows. */
function targetRuns({ truth, predicted }: NumberData): TargetLevel[] {
  const sorted = truth.slice().sort();
  if (sorted.length === 0) return [];
  const bounds = Array.from({ length: TARGET_RUNS + 1 }, (_, i) => quantile(sorted, i / TARGET_RUNS));
  return bounds.slice(0, -1).flatMap((from, run) => {
    const to = at(bounds, run + 1);
    const isLast = run === TARGET_RUNS - 1;
    const errors = Array.from(truth.keys())
      .filter((i) => at(truth, i) >= from && (at(truth, i) < to || isLast))
      .map((i) => at(predicted, i) - at(truth, i));
    if (errors.length === 0) return [];
    const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;
    return [
      {
        level: `${shortNumber(from, 4)} to ${shortNumber(to, 4)}`,
        rows: errors.length,
        figure: Math.sqrt(mean(errors.map((error) => error * error))),
        meanError: mean(errors),
      },
    ];
  });
}
