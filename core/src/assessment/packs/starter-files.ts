import { modelOf } from '../../models/registry.js';
import type { PackContent } from '../questions/contract/kind.js';
import type { Material } from '../material/material.js';
import type { ModelRules } from '../questions/model/question.js';
import type { PredictionsRules } from '../questions/predictions/question.js';
import { STARTERS, writeStarter } from '../starter/starter.js';
import { featuresOf } from '../../data/table/roles.js';
import { heldOutOf } from '../material/held-out.js';

/** What a starter has to begin with. */
interface Begins {
  readonly predictions: PredictionsRules | null;
  readonly model: ModelRules | null;
}

/**
 * Notebooks and a script that fit a baseline and write a file that is accepted, or a model that can be saved as one: where
 * to begin, nothing further.
 */
export function starterFiles(
  request: Material & { readonly title: string },
  { predictions, model }: Begins,
): PackContent[] {
  const rules = predictions ?? model;
  if (!rules) return [];
  const { table, roles, title, folds } = request;
  const baselines = { labels: 'most-frequent', probabilities: 'class-shares', numbers: 'mean' } as const;
  const equation = rules.task === 'regression' ? 'linear' : 'logistic';
  const starter = {
    title,
    identifier: heldOutOf(request).identifier,
    target: roles.target,
    task: roles.task,
    labels: rules.labels,
    positive: roles.positive,
    needs: rules.needs,
    features: model?.columns ?? featuresOf(table, roles).map(({ name, kind }) => ({ name, kind })),
    weight: roles.weight,
    model: modelOf(model ? equation : baselines[rules.needs]),
    folds: folds === null ? ('none' as const) : folds.drawn ? ('drawn' as const) : ('assigned' as const),
    seed: 0,
    predicts: predictions !== null,
    saves: model?.takes ?? null,
  };
  return (['python', 'r', 'script'] as const).map((form) => ({
    name: STARTERS[form].file,
    text: writeStarter(starter, form),
    shape: null,
  }));
}
