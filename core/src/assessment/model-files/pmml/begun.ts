import { miningFields, type MiningFields } from './fields.js';
import { Classes, type Context } from './model.js';
import type { Scope } from './scope.js';
import { type Element, oneOf } from './xml.js';

/** What is common to all models: fields, kind of prediction, classes. */
export interface Begun extends MiningFields {
  readonly isClassification: boolean;
  readonly classes: Classes;
}

/** Reads what all models begin with. @throws SieveError `model-file` */
export function begin(element: Element, context: Context): Begun {
  const fields = miningFields(element, context.scope, context.around);
  const isClassification =
    oneOf(element, 'functionName', ['regression', 'classification']) === 'classification';
  return { ...fields, isClassification, classes: classesFor(fields.target, context) };
}

function classesFor(target: string | null, { classes, targets }: Context): Classes {
  const declared = target === null ? null : targets.get(target);
  if (classes && (!declared || declared.values.every((value) => classes.labels.includes(value))))
    return classes;
  const own = new Classes();
  for (const value of declared?.values ?? []) own.place(value);
  return own;
}

/** The context of models within a model. */
export const within = (scope: Scope, classes: Classes | null, { targets }: Context): Context => ({
  scope,
  around: null,
  classes,
  targets,
});
