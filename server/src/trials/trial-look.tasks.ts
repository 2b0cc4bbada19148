import { cellTexts, columnNamed, readTable } from '@modest-sieve/core/data';
import { makeFolds, testRows } from '@modest-sieve/core/splitting';
import { metricNamed, metricsFor } from '@modest-sieve/core/metrics';
import { judgedBy, predictRows, readFitted, sampleOf, targetOf, targetRows } from '@modest-sieve/core/models';
import {
  compareArms,
  against,
  evidenceOf,
  predictOne,
  usualMetrics,
  type Against,
  type Arm,
  type Emphasis,
  type Evidence,
  type Figures,
  type OneCase,
  type SettingSummary,
} from '@modest-sieve/core/evaluation';
import type { EvidenceRows } from '../api/api.js';
import { rowsForFolds } from '../store/fold-rows.js';
import { tableOf, type StoredTable } from '../store/stored-table.js';
import {
  chosenSetting,
  figuresOn,
  opened,
  rowsOf,
  type OutOfFold,
  type TrialMaterial,
} from './trial-material.js';
import { tasks } from '../platform/compute/task.js';

/** Formats in which the model of a run is taken elsewhere. */
export const SAVED_FORMATS = ['json', 'pmml', 'onnx'] as const;
type SavedFormat = (typeof SAVED_FORMATS)[number];

/** Trials that are done, looked at. */
export const TRIAL_LOOK_TASKS = {
  ...tasks('quick', {
    /** The model of a run as a file. */
    async savedModel({
      fitted: text,
      format,
      dates,
    }: {
      fitted: string;
      format: SavedFormat;
      /** Names of the columns that hold dates. */
      dates: readonly string[];
    }): Promise<{ bytes: Uint8Array }> {
      if (format === 'json') return { bytes: new TextEncoder().encode(`${text}\n`) };
      // What writes models is loaded only where it is needed.
      const { writeOnnx, writePmml } = await import('@modest-sieve/core/model-files');
      const written = (format === 'pmml' ? writePmml : writeOnnx)(readFitted(text), new Set(dates));
      return { bytes: typeof written === 'string' ? new TextEncoder().encode(written) : written };
    },

    /** What a run says of the rows of another table, as CSV. */
    async predictedTable({
      fitted: text,
      bytes,
      file,
      identifier,
    }: {
      fitted: string;
      bytes: Uint8Array;
      file: string;
      /** Names the rows, where the table has it. */
      identifier: string | null;
    }): Promise<{ csv: string }> {
      const { table } = await readTable(bytes, { file, mustChoose: true });
      const { columnsFor, fittedFile, predictionsCsv } = await import('@modest-sieve/core/model-files');
      const model = fittedFile(readFitted(text));
      const names = table.columns.map(({ name }) => name);
      const said = await model.predict(table, columnsFor(model.inputs, names));
      const named = identifier !== null && names.includes(identifier) ? identifier : null;
      const identifiers =
        named === null
          ? Array.from({ length: table.rowCount }, (_, row) => String(row + 1))
          : cellTexts(columnNamed(table, named));
      return { csv: predictionsCsv(said, named ?? 'row', identifiers) };
    },

    heldOutFigures({
      fitted,
      ...material
    }: Pick<TrialMaterial, 'stored' | 'roles' | 'parts'> & { fitted: string }): Figures {
      const table = tableOf(material.stored);
      return figuresOn(
        readFitted(fitted),
        table,
        material.roles,
        rowsOf(material, 'held-out', new Int32Array()),
        // Exercises may be marked by any of them.
        metricsFor(material.roles.task),
      );
    },

    trialEvidence({
      fitted: text,
      outOfFold,
      on,
      by,
      ...material
    }: TrialMaterial & {
      fitted: string;
      outOfFold: OutOfFold | null;
      on: EvidenceRows;
      by: string | null;
    }): Evidence {
      const { roles } = material;
      const { table, request } = opened(material);
      const fitted = readFitted(text);
      const rows = on === 'folds' ? (outOfFold?.rows ?? request.rows) : rowsOf(material, on, request.rows);
      const predicted = on === 'folds' && outOfFold ? outOfFold.predicted : predictRows(fitted, table, rows);
      return evidenceOf({
        table,
        task: roles.task,
        metric: material.plan.metric,
        judged: judgedBy(targetRows(request.target, rows), predicted),
        rows,
        design: () => sampleOf(fitted.recipe, table, rows).design(),
        by,
        group: roles.group,
        identifier: roles.identifier,
        isLinearFit: on === 'training' && fitted.model.kind === 'linear' && roles.task === 'regression',
      });
    },

    trialAgainst({
      first,
      second,
      metric,
      ...material
    }: Omit<TrialMaterial, 'plan'> & {
      /** Tested beside the usual ones: a test of every metric would find a difference by chance. */
      metric: string;
      first: { summary: SettingSummary; outOfFold: OutOfFold };
      second: { summary: SettingSummary; outOfFold: OutOfFold };
    }): Against {
      const { roles, stored, folds: sentence, parts } = material;
      const table = tableOf(stored);
      const { asked, usable } = rowsForFolds(table, roles, parts, sentence);
      const folds = makeFolds(table, asked, usable);
      const target = targetRows(targetOf(table, roles), first.outOfFold.rows);
      // Of all folds: the last ones may be smaller.
      const all = Array.from({ length: folds.count }, (_, fold) => fold);
      const tested = all.reduce((sum, fold) => sum + testRows(folds, 0, fold).length, 0);
      const trained = all.reduce((sum, fold) => sum + folds.training(0, fold).length, 0);
      return against(
        usualMetrics(roles.task, metric),
        [first.summary, second.summary],
        tested / trained,
        [judgedBy(target, first.outOfFold.predicted), judgedBy(target, second.outOfFold.predicted)],
        first.outOfFold.rows,
        roles.group !== null,
      );
    },

    predictCase({
      stored,
      fitted,
      cells,
      spread,
    }: {
      stored: StoredTable;
      fitted: string;
      cells: Readonly<Record<string, string>>;
      spread: number | null;
    }): OneCase {
      return predictOne(readFitted(fitted), tableOf(stored), cells, spread);
    },
  }),
  ...tasks('trials', {
    compareArms({
      emphasis,
      fitted,
      ...material
    }: TrialMaterial & { emphasis: Emphasis; fitted: string }): Arm[] {
      const { request, folds } = chosenSetting(material, fitted);
      return compareArms(request, folds, emphasis, metricNamed(material.plan.metric));
    },
  }),
};
