import type { Answer, Keys, Rules } from '@modest-sieve/core/assessment';
import type { ModelProcesses } from '../platform/models/model-process.js';

/** An answer as it is marked: a model is run first, in a process of its own. */
export async function ranAnswer(
  models: ModelProcesses,
  answer: Answer,
  { rules, key }: { readonly rules: Rules; readonly key: Keys },
  signal: AbortSignal,
): Promise<Answer> {
  if (!('takes' in rules) || !('features' in key) || !answer.file) return answer;
  const { file, fields } = answer;
  const run = await models.run(
    {
      ...file,
      fields,
      rules,
      training: key.training.features,
      heldOut: key.features,
      without: key.without,
    },
    signal,
  );
  return { ...answer, run };
}
