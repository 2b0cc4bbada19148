import { SieveError } from '../../foundation/errors.js';
import { membersOf } from '../../metrics/intervals/bootstrap.js';
import { judgedBy, predictRows } from '../../models/fitted.js';
import { targetOf, targetRows } from '../../models/prepared/target.js';
import { at } from '../../foundation/numbers.js';
import { shuffle, type Random } from '../../foundation/random/random.js';
import { keyedRandom } from '../../foundation/random/secret.js';
import type { Judged } from '../../metrics/judged.js';
import type { Material } from '../material/material.js';
import { splitterOf } from '../../splitting/splits/registry.js';
import { rowsOfPart } from '../../splitting/parts/parts.js';
import { strataOf } from '../../splitting/algorithms/strata.js';
import { featuresOf } from '../../data/table/roles.js';
import { firstAlike } from '../../data/table/same-rows.js';
import { columnNamed, isCoded } from '../../data/table/table.js';
import { FEEDBACK, FINAL, groupsOf } from '../material/held-out.js';

/** Divisions that are tried, of which the best balanced is taken. */
const CANDIDATES = 48;
/** Consecutive blocks of time that are divided as a whole. */
const BLOCKS = 16;

/** Share of the rows that must differ for those that are alike to be kept together. */
const FEWEST_DISTINCT = 0.5;

type DivisionMaterial = Pick<Material, 'table' | 'roles' | 'plan' | 'references' | 'secret'>;

/**
 * What each held-out row is for. Rows of the reserve stay what they were; those that are held out for the first time
 * are divided now.
 *
 * @param reserve by row of the table what the reserve says of it, 0 where it says nothing
 * @throws SieveError `too-few-held-out`, `no-final-rows` where no row would be left to decide marks
 */
export function completeDivision(
  material: DivisionMaterial & Pick<Material, 'parts'>,
  reserve: Uint8Array,
): Uint8Array {
  const held = rowsOfPart(material.parts, 2);
  const fresh = held.filter((row) => at(reserve, row) === 0);
  const division = new Uint8Array(material.table.rowCount);
  for (const row of held) division[row] = at(reserve, row);
  if (fresh.length > 0) {
    // A few rows beside a divided reserve are final: they need not be divided to be judged by.
    const isRest = fresh.length < held.length && unitsOf(material, fresh).length < 2;
    const feedback = isRest ? null : divideHeldOut(material, fresh);
    for (const row of fresh) division[row] = feedback?.[row] === 1 ? FEEDBACK : FINAL;
  }
  if (held.length > 0 && !division.includes(FINAL))
    throw new SieveError(
      'no-final-rows',
      'All held-out rows are feedback rows of the reserve, so none could decide marks. Hold out other rows.',
      { field: 'splitId' },
    );
  return division;
}

/**
 * Divides held-out rows into feedback rows and final rows, one half each, in the way of the split: whole groups, blocks
 * of time, or rows, with equal shares of the classes (of a numeric target, of its fifths). Rows with the same features
 * stay together, unless most are alike. Of several random divisions the one is taken in which both halves are most alike: in size, in
 * classes and in the mean error of each reference run, so that both judge a typical model alike.
 *
 * @param rows that are held out, by their place in the table
 * @returns 1 for each feedback row of the table, 0 for every other row
 * @throws SieveError `too-few-held-out` where there are fewer than two units to divide
 */
function divideHeldOut(material: DivisionMaterial, rows: Int32Array): Uint8Array {
  const units = unitsOf(material, rows);
  if (units.length < 2)
    throw new SieveError(
      'too-few-held-out',
      'The held-out rows cannot be divided into feedback rows and final rows: there are fewer than two rows or groups of them. Hold out more.',
    );
  const balance = balanceOf(material, rows);
  const random = keyedRandom(material.secret, { what: 'division' });
  let best: { side: Uint8Array; score: number } | null = null;
  for (let candidate = 0; candidate < CANDIDATES; candidate++) {
    const side = dividedOnce(units, rows.length, random);
    const score = imbalance(side, balance);
    if (best === null || score < best.score) best = { side, score };
  }
  const feedback = new Uint8Array(material.table.rowCount);
  rows.forEach((row, place) => (feedback[row] = best?.side[place] ?? 0));
  return feedback;
}

/** Places that stay together, and the stratum in which their unit is divided. */
interface Unit {
  readonly places: Int32Array;
  readonly stratum: number;
}

function unitsOf(material: DivisionMaterial, rows: Int32Array): Unit[] {
  const { table, roles } = material;
  const groups = groupsOf(material);
  if (groups) {
    const members = membersOf(rows.map((row) => at(groups, row)));
    return members.map((places) => ({ places, stratum: 0 }));
  }
  const time = timeOf(material);
  if (time) return blocksOfTime(rows, time);
  const held = new Set(rows);
  const first = firstAlike(featuresOf(table, roles), table.rowCount, (row) => held.has(row));
  const strata = strataOf(columnNamed(table, roles.target)).codes;
  const alike = membersOf(rows.map((row) => at(first, row)));
  // Where few values make most rows alike, being alike says nothing of a row.
  const units =
    alike.length >= FEWEST_DISTINCT * rows.length
      ? alike
      : Array.from(rows.keys(), (place) => Int32Array.of(place));
  return units.map((places) => ({ places, stratum: at(strata, at(rows, at(places, 0))) }));
}

/** The column of time by which the split holds rows out; null for any other way. */
function timeOf({ table, plan }: DivisionMaterial): Float64Array | null {
  const { time } = splitterOf(plan).ask(table, plan.values).plan;
  if (time === undefined) return null;
  const column = columnNamed(table, time);
  return isCoded(column) ? null : column.values;
}

/** Blocks of rows that follow one another; rows of one time are in one block. Neighbouring blocks are a stratum. */
function blocksOfTime(rows: Int32Array, time: Float64Array): Unit[] {
  const order = Int32Array.from(rows.keys()).sort((a, b) => at(time, at(rows, a)) - at(time, at(rows, b)));
  const blocks: number[][] = [];
  let last = NaN;
  order.forEach((place, i) => {
    const now = at(time, at(rows, place));
    const block = Math.floor((i * BLOCKS) / order.length);
    const current = blocks.at(-1);
    if (current && (now === last || blocks.length > block)) current.push(place);
    else blocks.push([place]);
    last = now;
  });
  return blocks.map((places, i) => ({ places: Int32Array.from(places), stratum: Math.floor(i / 2) }));
}

/** One random division: within each stratum the units go, in random order, to the side that has fewer of its rows. */
function dividedOnce(units: readonly Unit[], places: number, random: Random): Uint8Array {
  const side = new Uint8Array(places);
  const byStratum = membersOf(Int32Array.from(units, ({ stratum }) => stratum));
  // Over all strata: an odd row of one stratum is made up for by the next.
  let ahead = 0;
  for (const members of byStratum) {
    const within = [0, 0];
    for (const unit of shuffle(members.slice(), random)) {
      const { places: own } = at(units, unit);
      const [final, feedback] = [at(within, 0), at(within, 1)];
      const to =
        feedback === final ? (ahead === 0 ? random.below(2) : ahead > 0 ? 0 : 1) : feedback < final ? 1 : 0;
      within[to] = at(within, to) + own.length;
      if (to === 1) for (const place of own) side[place] = 1;
    }
    ahead += at(within, 1) - at(within, 0);
  }
  return side;
}

/** Quantities whose means should be alike in both halves, each with mean 0 and deviation 1. */
function balanceOf({ table, roles, references }: DivisionMaterial, rows: Int32Array): Float64Array[] {
  const target = targetRows(targetOf(table, roles), rows);
  const quantities: Float64Array<ArrayBuffer>[] =
    target.kind === 'numbers'
      ? [Float64Array.from(target.values)]
      : target.labels.map((_, label) => Float64Array.from(target.codes, (code) => (code === label ? 1 : 0)));
  for (const fitted of references)
    quantities.push(errorsOf(judgedBy(target, predictRows(fitted, table, rows))));
  return quantities.map(standardised).filter((one) => one.some((value) => value !== 0));
}

/** The error of each row: squared of a number, 1 less the probability of the true class of a label. */
function errorsOf(judged: Judged): Float64Array<ArrayBuffer> {
  if (judged.kind === 'numbers') {
    const { truth, predicted } = judged.data;
    return Float64Array.from(truth, (value, i) => (value - at(predicted, i)) ** 2);
  }
  const { truth, probabilities, predicted } = judged.data;
  return Float64Array.from(truth, (code, i) =>
    probabilities ? 1 - at(at(probabilities, code), i) : code === at(predicted, i) ? 0 : 1,
  );
}

function standardised(values: Float64Array<ArrayBuffer>): Float64Array<ArrayBuffer> {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const sd = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
  return sd > 0 ? values.map((value) => (value - mean) / sd) : new Float64Array(values.length);
}

/** How unlike two halves are: the largest difference of a mean, in deviations, and that of their sizes. */
function imbalance(side: Uint8Array, quantities: readonly Float64Array[]): number {
  const feedback = side.reduce((sum, one) => sum + one, 0);
  const final = side.length - feedback;
  if (feedback === 0 || final === 0) return Infinity;
  let worst = Math.abs(feedback - final) / side.length;
  for (const quantity of quantities) {
    let sum = 0;
    for (let place = 0; place < side.length; place++)
      sum += (side[place] === 1 ? 1 : 0) * (quantity[place] ?? 0);
    // The quantity sums to 0, so the other half has the opposite sum.
    worst = Math.max(worst, Math.abs(sum / feedback + sum / final));
  }
  return worst;
}
