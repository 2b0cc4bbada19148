import { checkPredictions, type CheckedPredictions, type PredictionRules } from '@modest-sieve/core';

export interface CheckRequest {
  readonly file: File;
  readonly rules: PredictionRules;
}

/** What the page is told; the predictions themselves stay in the worker. */
export type CheckAnswer = Pick<CheckedPredictions, 'checks' | 'rows'> & { readonly milliseconds: number };

addEventListener('message', (event: MessageEvent<CheckRequest>) => {
  void (async () => {
    const { file, rules } = event.data;
    const start = performance.now();
    const { checks, rows } = checkPredictions(new Uint8Array(await file.arrayBuffer()), file.name, rules);
    postMessage({ checks, rows, milliseconds: performance.now() - start } satisfies CheckAnswer);
  })();
});
