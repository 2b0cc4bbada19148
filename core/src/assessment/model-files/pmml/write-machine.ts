import { SieveError } from '../../../foundation/errors.js';
import { at, count } from '../../../foundation/numbers.js';
import type { Fitted } from '../../../models/fitted.js';
import type { Kernel } from '../../../models/vector-machine/kernel.js';
import type { Decision, MachineState } from '../../../models/vector-machine/machine-form.js';
import { tag } from './tag.js';
import { derived, standardisedColumns } from './write-expressions.js';
import { chained, type ClassScore } from './write-segments.js';

/** Numbers that the support vectors of a file may hold: one takes about 20 bytes, and files that are handed in have a limit. */
const MOST_NUMBERS = 2_000_000;

/**
 * A vector machine. For classes every boundary is a machine for numbers, whose distances or votes become probabilities as in
 * the program itself: a PMML machine for classes has none.
 *
 * @param schemas of the model: with missing cells filled, and without
 * @throws SieveError `model-file` where it is too large
 */
export function vectorMachine(
  fitted: Fitted,
  state: MachineState,
  schemas: { readonly filled: string; readonly plain: string },
): string {
  const { decisions, classes, mean, deviation } = state;
  refuseLarge(state);
  const machine = (decision: Decision, scale: Scale, output = '') =>
    machineOf(fitted, state, decision, { scale, schema: schemas.filled, output });
  if (classes === 0) return machine(at(decisions, 0), { mean, deviation });
  const models = decisions.map(
    (decision) => (output: string) => machine(decision, { mean: 0, deviation: 1 }, output),
  );
  const scores = Array.from({ length: classes }, (_, label) => scoreOf(label, decisions));
  return chained(fitted, schemas.plain, models, scores, classes > 2);
}

interface Scale {
  readonly mean: number;
  readonly deviation: number;
}

function refuseLarge({ decisions, means }: MachineState): void {
  const numbers = decisions.reduce((sum, { vectors }) => sum + vectors.length, 0) * (means.length + 1);
  if (numbers > MOST_NUMBERS)
    throw new SieveError(
      'model-file',
      `The support vectors hold ${count(numbers)} numbers, more than the ${count(MOST_NUMBERS)} that a PMML file takes: a larger cost or fewer columns leave fewer of them.`,
    );
}

/** Of two classes the distance itself; of more a vote for one side or the other of each boundary. */
function scoreOf(label: number, decisions: readonly Decision[]): ClassScore {
  if (decisions.length === 1)
    return {
      intercept: 0,
      terms: at(decisions, 0).above === label ? [{ model: 0, coefficient: 1 }] : [],
    };
  const above = decisions.flatMap((one, model) =>
    one.above === label ? [{ model, coefficient: 1 as const }] : [],
  );
  const below = decisions.flatMap((one, model) =>
    one.below === label ? [{ model, coefficient: -1 as const }] : [],
  );
  return { intercept: below.length, terms: [...above, ...below] };
}

/** One boundary as a machine for numbers; its vectors are standardised, as its fields are. */
function machineOf(
  { recipe }: Fitted,
  state: MachineState,
  { vectors, weights, offset }: Decision,
  { scale, schema, output }: { readonly scale: Scale; readonly schema: string; readonly output: string },
): string {
  const columns = standardisedColumns(recipe, state);
  const instances = Array.from(vectors, (place) => {
    const values = Array.from(at(state.vectors, place));
    return tag('VectorInstance', { id: place }, [
      tag('Array', { type: 'real', n: values.length }, [values.join(' ')]),
    ]);
  });
  return tag(
    'SupportVectorMachineModel',
    { functionName: 'regression', svmRepresentation: 'SupportVectors' },
    [
      schema,
      ...(output === '' ? [] : [output]),
      tag(
        'LocalTransformations',
        {},
        columns.map(({ name, body }) => derived(name, body)),
      ),
      kernelOf(state.kernel),
      tag('VectorDictionary', { numberOfVectors: instances.length }, [
        tag(
          'VectorFields',
          { numberOfFields: columns.length },
          columns.map(({ name }) => tag('FieldRef', { field: name })),
        ),
        ...instances,
      ]),
      tag('SupportVectorMachine', {}, [
        tag(
          'SupportVectors',
          { numberOfSupportVectors: instances.length, numberOfAttributes: columns.length },
          Array.from(vectors, (place) => tag('SupportVector', { vectorId: place })),
        ),
        tag(
          'Coefficients',
          { numberOfCoefficients: instances.length, absoluteValue: scale.mean - scale.deviation * offset },
          Array.from(weights, (weight) => tag('Coefficient', { value: scale.deviation * weight })),
        ),
      ]),
    ],
  );
}

function kernelOf(kernel: Kernel): string {
  switch (kernel.kind) {
    case 'linear':
      return tag('LinearKernelType', {});
    case 'polynomial':
      return tag('PolynomialKernelType', {
        gamma: kernel.factor,
        coef0: kernel.constant,
        degree: kernel.degree,
      });
    case 'radial':
      return tag('RadialBasisKernelType', { gamma: kernel.factor });
  }
}
