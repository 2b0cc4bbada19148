import { isProbabilityLink, PROBABILITIES, PROBABILITY_LINKS } from '../links.js';
import { type Element, numberOf, oneOf } from '../xml.js';

const LINKS = [
  ...PROBABILITY_LINKS,
  'identity',
  'log',
  'logc',
  'power',
  'inverse',
  'negbin',
  'oddspower',
] as const;

/** From the sum of the terms to the mean: the inverse of the link (PMML 4.4, General Regression, from memory). */
export function inverseLink(element: Element): (value: number) => number {
  const link = oneOf(element, 'linkFunction', LINKS, 'identity');
  const needsParameter = link === 'power' || link === 'oddspower' || link === 'negbin';
  const power =
    link === 'negbin'
      ? numberOf(element, 'distParameter')
      : needsParameter
        ? numberOf(element, 'linkParameter')
        : 1;
  if (isProbabilityLink(link)) return PROBABILITIES[link];
  switch (link) {
    case 'identity':
      return (value) => value;
    case 'log':
      return Math.exp;
    case 'logc':
      return (value) => 1 - Math.exp(value);
    case 'inverse':
      return (value) => 1 / value;
    case 'negbin':
      return (value) => 1 / (power * (Math.exp(-value) - 1));
    case 'power':
      return power === 0 ? Math.exp : (value) => value ** (1 / power);
    case 'oddspower':
      return power === 0 ? PROBABILITIES.logit : (value) => 1 / (1 + (1 + power * value) ** (-1 / power));
  }
}
