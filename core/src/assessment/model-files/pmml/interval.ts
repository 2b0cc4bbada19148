import { numberOf, oneOf, type Element } from './xml.js';

/** Whether a number lies in an <Interval>. */
export function intervalOf(element: Element): (value: number) => boolean {
  const closure = oneOf(element, 'closure', ['openClosed', 'openOpen', 'closedOpen', 'closedClosed']);
  const low = numberOf(element, 'leftMargin', -Infinity);
  const high = numberOf(element, 'rightMargin', Infinity);
  const isLowIn = closure.startsWith('closed');
  const isHighIn = closure.endsWith('Closed');
  return (value) => (isLowIn ? value >= low : value > low) && (isHighIn ? value <= high : value < high);
}
