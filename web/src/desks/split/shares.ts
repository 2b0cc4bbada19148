import type { Plan } from '@modest-sieve/core/data';
import { PART_NAMES, type PartName } from '@modest-sieve/core/splitting';

/** One share changed: held-out rows make up for training, training for the others, so that they stay 100 %. */
export function balanced(plan: Plan, changed: string): Plan {
  const shares = PART_NAMES.map((part) => plan.values[part]);
  if (!isPart(changed) || !shares.every((share) => typeof share === 'number')) return plan;
  const balance: PartName = changed === 'training' ? 'heldout' : 'training';
  const rest = 100 - shares.reduce((sum, share) => sum + share, 0);
  return { ...plan, values: { ...plan.values, [balance]: Number(plan.values[balance]) + rest } };
}

const isPart = (key: string): key is PartName => PART_NAMES.some((part) => part === key);
