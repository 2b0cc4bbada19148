import { at } from '../../../../foundation/numbers.js';
import { begin } from '../begun.js';
import { type Context, likeliestOf, normalised, NOTHING, type Scorer } from '../model.js';
import { asType, type Field, numberFrom, type Value } from '../row.js';
import {
  childOf,
  childrenOf,
  type Element,
  needed,
  neededChild,
  numberIn,
  numberOf,
  oneOf,
  refused,
  unsupported,
} from '../xml.js';

const MEASURES = ['euclidean', 'squaredEuclidean', 'cityBlock', 'chebychev', 'minkowski'] as const;
const COMPARED = ['absDiff', 'delta', 'equal', 'gaussSim'] as const;

/** A field that rows are compared by. */
interface Compared {
  readonly field: Field;
  readonly weight: number;
  readonly difference: (a: Value, b: Value) => number;
  /** Of the training rows. */
  readonly values: readonly Value[];
}

/** <NearestNeighborModel>: the training rows are in the file, and those nearest to a row predict it. */
export function nearestNeighborModel(element: Element, context: Context): Scorer {
  const { scope, isClassification, classes, target } = begin(element, context);
  const neighbours = numberOf(element, 'numberOfNeighbors');
  if (neighbours < 1) throw refused('The number of neighbours is at least 1.', element.line);
  const instances = neededChild(element, 'TrainingInstances');
  const table = childOf(instances, 'InlineTable');
  if (!table) throw unsupported(instances, 'a table outside the file');
  const rows = childrenOf(table, 'row');
  const columns = new Map(
    childrenOf(neededChild(instances, 'InstanceFields'), 'InstanceField').map((one) => [
      needed(one, 'field'),
      one.attributes['column'] ?? needed(one, 'field'),
    ]),
  );
  const cells = (name: string, from: Element): (string | null)[] => {
    const column = columns.get(name);
    if (column === undefined) throw refused(`No <InstanceField> is “${name}”.`, from.line);
    const local = column.slice(column.indexOf(':') + 1);
    return rows.map((row) => childOf(row, local)?.text.trim() ?? null);
  };
  const measure = neededChild(element, 'ComparisonMeasure');
  if (oneOf(measure, 'kind', ['distance', 'similarity'], 'distance') === 'similarity')
    throw unsupported(measure, 'kind="similarity"');
  const distance = measure.children.find(({ name }) => (MEASURES as readonly string[]).includes(name));
  if (!distance)
    throw unsupported(measure, measure.children[0] ? `<${measure.children[0].name}>` : 'no measure');
  const general = oneOf(measure, 'compareFunction', COMPARED, 'absDiff');
  const compared = childrenOf(neededChild(element, 'KNNInputs'), 'KNNInput').map((input): Compared => {
    const name = needed(input, 'field');
    const field = scope.need(name, input);
    const how = oneOf(input, 'compareFunction', COMPARED, general);
    return {
      field,
      weight: numberOf(input, 'fieldWeight', 1),
      difference: differenceOf(how, input),
      values: cells(name, input).map((text) => asType(text, field.type)),
    };
  });
  const targetName =
    target ?? [...columns.keys()].find((name) => compared.every(({ field }) => field.name !== name));
  if (targetName === undefined) throw refused('The model has no target.', element.line);
  const outcomes = cells(targetName, instances);
  const combine = isClassification
    ? classesOf(element, outcomes, classes)
    : numbersOf(element, outcomes, instances);
  const distances = distancesOf(distance.name as (typeof MEASURES)[number], distance);
  return {
    isClassification,
    classes: isClassification ? classes : null,
    score(row) {
      const values = compared.map(({ field }) => field.get(row));
      if (values.every((value) => value === null)) return NOTHING;
      const found = distances(compared, values, rows.length);
      const order = Array.from(found.keys()).sort((a, b) => at(found, a) - at(found, b) || a - b);
      return combine(order.slice(0, neighbours).map((place) => ({ place, distance: at(found, place) })));
    },
  };
}

function differenceOf(how: (typeof COMPARED)[number], element: Element): Compared['difference'] {
  if (how === 'gaussSim') {
    const scale = numberOf(element, 'similarityScale');
    return (a, b) => {
      const z = Number(numberFrom(a)) - Number(numberFrom(b));
      return Math.exp((-Math.LN2 * z ** 2) / scale ** 2);
    };
  }
  if (how === 'delta') return (a, b) => (a === b ? 0 : 1);
  if (how === 'equal') return (a, b) => (a === b ? 1 : 0);
  return (a, b) =>
    typeof a === 'string' ? (a === b ? 0 : 1) : Math.abs(Number(numberFrom(a)) - Number(numberFrom(b)));
}

/** Distances of a row from all training rows; fields that are missing in either count as the mean of the others. */
function distancesOf(
  measure: (typeof MEASURES)[number],
  element: Element,
): (compared: readonly Compared[], values: readonly Value[], n: number) => Float64Array {
  const power = measure === 'minkowski' ? numberOf(element, 'p-parameter') : measure === 'cityBlock' ? 1 : 2;
  return (compared, values, n) => {
    const total = compared.reduce((sum, { weight }) => sum + weight, 0);
    return Float64Array.from({ length: n }, (_, i) => {
      let sum = 0;
      let most = 0;
      let counted = 0;
      compared.forEach(({ weight, difference, values: own }, f) => {
        const [a, b] = [values[f] ?? null, own[i] ?? null];
        if (a === null || b === null) return;
        counted += weight;
        const apart = difference(a, b);
        sum += weight * apart ** power;
        most = Math.max(most, weight * apart);
      });
      if (counted === 0) return Infinity;
      const whole = (sum * total) / counted;
      if (measure === 'chebychev') return most;
      return measure === 'squaredEuclidean' ? whole : whole ** (1 / power);
    });
  };
}

interface Neighbour {
  readonly place: number;
  readonly distance: number;
}

/** Nearer neighbours weigh more: one over the distance, which is taken to be at least the threshold. */
const weightsOf = (element: Element, isWeighted: boolean) => {
  const threshold = numberOf(element, 'threshold', 0.001);
  return ({ distance }: Neighbour) => (isWeighted ? 1 / (distance + threshold) : 1);
};

function classesOf(
  element: Element,
  outcomes: readonly (string | null)[],
  classes: Parameters<typeof likeliestOf>[1],
): (near: readonly Neighbour[]) => ReturnType<typeof likeliestOf> {
  const places = outcomes.map((label) => (label === null ? -1 : classes.place(label)));
  const method = oneOf(
    element,
    'categoricalScoringMethod',
    ['majorityVote', 'weightedMajorityVote'],
    'majorityVote',
  );
  const weigh = weightsOf(element, method === 'weightedMajorityVote');
  return (near) => {
    const votes = new Float64Array(classes.labels.length);
    for (const one of near) {
      const place = at(places, one.place);
      if (place >= 0) votes[place] = (votes[place] ?? 0) + weigh(one);
    }
    return likeliestOf(normalised(votes), classes);
  };
}

function numbersOf(element: Element, outcomes: readonly (string | null)[], from: Element) {
  const values = outcomes.map((text) => numberIn(text ?? '', from, 'a value of the target'));
  const method = oneOf(
    element,
    'continuousScoringMethod',
    ['average', 'median', 'weightedAverage'],
    'average',
  );
  const weigh = weightsOf(element, method === 'weightedAverage');
  return (near: readonly Neighbour[]) => {
    const own = near.map((one) => ({ value: at(values, one.place), weight: weigh(one) }));
    if (method === 'median') {
      const sorted = own.map(({ value }) => value).sort((a, b) => a - b);
      const middle = sorted.length / 2;
      return {
        value: (at(sorted, Math.ceil(middle) - 1) + at(sorted, Math.floor(middle))) / 2,
        shares: null,
      };
    }
    const total = own.reduce((sum, { weight }) => sum + weight, 0);
    return { value: own.reduce((sum, { value, weight }) => sum + value * weight, 0) / total, shares: null };
  };
}
