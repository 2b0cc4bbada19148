import { fetchRuntime, runModel, type ModelRequest } from '@modest-sieve/core/model-files';
import type { FromModel } from './model-process.js';
import { seal } from './seal.js';

// Entry of the process that runs one submitted model, and ends. It is started without environment, network and files.
seal();

const send = (message: FromModel) =>
  new Promise<void>((resolve) => {
    process.send?.(message, undefined, undefined, () => resolve());
  });

process.once('message', (request: ModelRequest) => {
  void (async () => {
    // Heard before a held-out row is looked at: whatever happens there costs an attempt, and reveals nothing.
    const run = await runModel(request, (found) => send({ found }));
    await send({ run });
    process.disconnect();
  })();
});

await fetchRuntime();
await send({ ready: true });
