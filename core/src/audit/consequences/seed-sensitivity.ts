import { SieveError } from '../../foundation/errors.js';
import type { Plan } from '../../data/sentence/sentence.js';
import { standardisedDifference } from '../quality/drift.js';
import { adversarialValidation } from '../quality/adversarial-validation.js';
import { at } from '../../foundation/numbers.js';
import { strataOf } from '../../splitting/algorithms/strata.js';
import { labelsOf } from '../../data/table/labels.js';
import { featuresOf, type Roles } from '../../data/table/roles.js';
import { columnNamed, isCoded, type Table } from '../../data/table/table.js';
import { rowsOfPart } from '../../splitting/parts/parts.js';
import { LARGEST_SEED } from '../../foundation/random/random.js';
import { splitterOf } from '../../splitting/splits/registry.js';
import type { SplitPlan } from '../../splitting/splits/splitter.js';
import { splitRows } from '../../splitting/splits/split.js';
import type { UsableRows } from '../../splitting/parts/usable.js';

/** Figures of one draw of a plan. */
export interface SeedFigures {
  /** The seed, or the text that is hashed with. */
  readonly seed: string;
  readonly heldout: number;
  /** Share of the positive class (of the most frequent one among several) among the held-out rows; the mean of a number. */
  readonly target: number | null;
  /** The largest standardised difference of a feature of numbers between training and held-out rows; null without one. */
  readonly drift: { readonly column: string; readonly value: number } | null;
  /** Area under the ROC curve of a classifier of training against held-out rows; null where it cannot be judged. */
  readonly apart: number | null;
}

/** How the figures of a plan vary from draw to draw. The first is the plan's own. */
export interface SeedSensitivity {
  /** What `target` is: the label whose share it is, or null for the mean of a number. */
  readonly label: string | null;
  readonly draws: readonly SeedFigures[];
}

/** Draws in a record. */
const RECORD_DRAWS = 20;

/**
 * Draws a plan with the twenty seeds from its own on, so that nobody takes a lucky draw unknowingly.
 *
 * @throws SieveError `not-drawn` for a plan that gives the same result each time, and as `splitRows`
 */
export function seedSensitivity(
  table: Table,
  roles: Roles,
  used: UsableRows,
  plan: SplitPlan,
): SeedSensitivity {
  if (!splitterOf(plan).isRandom)
    throw new SieveError('not-drawn', 'This plan gives the same result each time: no seed is involved.', {
      field: 'kind',
    });
  const target = columnNamed(table, roles.target);
  const classes = roles.task === 'regression' ? strataOf(target) : labelsOf(target);
  const label =
    roles.task === 'regression' ? null : (roles.positive ?? mostFrequent(classes.labels, classes.codes));
  const features = featuresOf(table, roles);
  const draws = Array.from({ length: RECORD_DRAWS }, (_, i): SeedFigures => {
    const drawn = redrawn(plan, i);
    const { parts } = splitRows(table, drawn, used.usable);
    const [training, heldout] = [rowsOfPart(parts, 0), rowsOfPart(parts, 2)];
    const compared = features.filter(({ name }) => name !== drawn.values['group']);
    let drift: SeedFigures['drift'] = null;
    for (const column of compared) {
      const value = isCoded(column) ? null : standardisedDifference(column.values, training, heldout);
      if (value !== null && !(drift && drift.value >= value)) drift = { column: column.name, value };
    }
    return {
      seed: String(drawn.values['seed'] ?? drawn.values['salt']),
      heldout: heldout.length,
      target:
        label === null
          ? meanAt(isCoded(target) ? new Float64Array() : target.values, heldout)
          : heldout.filter((row) => classes.labels[at(classes.codes, row)] === label).length / heldout.length,
      drift,
      apart: adversarialValidation(compared, training, heldout, 0),
    };
  });
  return { label, draws };
}

/**
 * The same plan drawn again: with the seed so many places on, from the largest back to 0; or with as many signs after
 * its text.
 */
export function redrawn<P extends Plan>(plan: P, places: number): P {
  const { seed, salt } = plan.values;
  const next =
    typeof seed === 'number'
      ? { seed: (seed + places) % (LARGEST_SEED + 1) }
      : { salt: `${String(salt)}${'#'.repeat(places)}` };
  return { ...plan, values: { ...plan.values, ...next } };
}

function mostFrequent(labels: readonly string[], codes: Int32Array): string {
  const counts = labels.map(() => 0);
  for (const code of codes) if (code >= 0) counts[code] = at(counts, code) + 1;
  return labels[counts.indexOf(Math.max(...counts))] ?? '';
}

function meanAt(values: Float64Array, rows: Int32Array): number | null {
  let sum = 0;
  let n = 0;
  for (const row of rows) {
    const value = at(values, row);
    if (Number.isNaN(value)) continue;
    sum += value;
    n++;
  }
  return n === 0 ? null : sum / n;
}
