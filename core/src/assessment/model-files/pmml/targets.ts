import { NOTHING, type Score } from './model.js';
import { childOf, childrenOf, type Element, numberOf, oneOf, unsupported } from './xml.js';

/**
 * What <Targets> make of a prediction: for numbers the least and greatest, a factor and a constant, whole numbers; a default
 * where there is none (PMML 4.4, Targets).
 */
export function targetsOf(model: Element, isClassification: boolean): (score: Score) => Score {
  const targets = childOf(model, 'Targets');
  const [target, another] = targets ? childrenOf(targets, 'Target') : [];
  if (!target) return (score) => score;
  if (another) throw unsupported(another, 'a second target');
  if (isClassification) {
    const named = childrenOf(target, 'TargetValue').find(({ attributes }) => attributes['priorProbability']);
    if (named) throw unsupported(named, 'priorProbability');
    return (score) => score;
  }
  const least = numberOf(target, 'min', -Infinity);
  const greatest = numberOf(target, 'max', Infinity);
  const factor = numberOf(target, 'rescaleFactor', 1);
  const constant = numberOf(target, 'rescaleConstant', 0);
  const cast = oneOf(target, 'castInteger', ['none', 'round', 'ceiling', 'floor'], 'none');
  const defaultValue = childrenOf(target, 'TargetValue').find(({ attributes }) => attributes['defaultValue']);
  const otherwise = defaultValue ? numberOf(defaultValue, 'defaultValue') : null;
  const whole = { none: (v: number) => v, round: Math.round, ceiling: Math.ceil, floor: Math.floor }[cast];
  return ({ value }) => {
    if (value === null) return otherwise === null ? NOTHING : { value: otherwise, shares: null };
    const bounded = Math.min(greatest, Math.max(least, Number(value)));
    return { value: whole(bounded * factor + constant), shares: null };
  };
}
