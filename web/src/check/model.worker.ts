import type { ModelRules, Predictions } from '@modest-sieve/core/assessment';
import { exampleTable, runModel } from '@modest-sieve/core/model-files';
import type { CheckAnswer } from './check.worker.js';

export interface ModelCheckRequest {
  readonly file: File;
  readonly rules: ModelRules;
  readonly fields: Readonly<Record<string, string>>;
}

/** What is said of each row, as a text. */
function saidBy(predictions: Predictions, { labels }: ModelRules): string[] {
  if (predictions.kind === 'numbers')
    return Array.from(predictions.predicted, (value) => value.toPrecision(6));
  return Array.from(predictions.predicted, (code, row) => {
    const share = predictions.probabilities?.[code]?.[row];
    const label = labels[code] ?? '';
    return share === undefined ? label : `${label}, with ${share.toFixed(3)}`;
  });
}

addEventListener('message', ({ data: { file, rules, fields } }: MessageEvent<ModelCheckRequest>) => {
  void (async () => {
    const start = performance.now();
    const { checks, report, training } = await runModel({
      name: file.name,
      bytes: new Uint8Array(await file.arrayBuffer()),
      fields,
      rules,
      training: exampleTable(rules),
      heldOut: null,
      without: 0,
    });
    postMessage({
      checks,
      rows: null,
      milliseconds: performance.now() - start,
      ...(report
        ? { model: { report, says: training?.predictions ? saidBy(training.predictions, rules) : [] } }
        : {}),
    } satisfies CheckAnswer);
    // The page receives what no file should bring about.
  })().catch(reportError);
});
