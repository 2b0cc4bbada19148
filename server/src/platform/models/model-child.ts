import { runModel, type ModelRequest } from '@modest-sieve/core/model-files';
import type { FromModel } from './model-process.js';
import { seal } from './seal.js';

// Entry of the process that runs one submitted model, and ends. It is started without environment, network and files.
seal();

const tell = (message: FromModel) =>
  new Promise<void>((resolve) => {
    process.send?.(message, undefined, undefined, () => resolve());
  });

process.once('message', (request: ModelRequest) => {
  void (async () => {
    let told = Promise.resolve();
    const run = await runModel(request, (found) => {
      told = tell({ found });
    });
    await told;
    await tell({ run });
    process.disconnect();
  })();
});

await import('onnxruntime-web');
await tell({ ready: true });
