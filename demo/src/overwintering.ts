import { seededRandom } from '@modest-sieve/core/foundation';
import { writeRecords, type Step } from '@modest-sieve/core/data';
import { APIARIES, clamp, HIVES, normal, pick } from './chance.js';

/** The table as the school's clerk would export it, with the flaws that real tables have. */

const TREATMENTS = ['none', 'oxalic', 'thymol', 'formic'] as const;

const SEED = 1851;
const COLONIES = 1503;
const REPEATED = 9;
const UNLABELLED = 23;

/** Records of about 1,500 colonies at 24 apiaries in October, and whether each survived the winter. */
export function overwinteringCsv(): string {
  const random = seededRandom(SEED, 'overwintering');
  const apiaries = APIARIES.map((name) => ({
    name,
    altitude: Math.round(40 + 260 * random.unit()),
    // Colonies of one apiary resemble one another: its keeper, its forage and its weather act on all of them.
    vigour: 0.55 * normal(random),
    mites: Math.exp(0.35 * normal(random)),
    day: random.below(40),
  }));
  const records: (string | null)[][] = [];
  for (let i = 0; i < COLONIES; i++) {
    const apiary = pick(apiaries, random);
    const treatment = pick(TREATMENTS, random);
    const mites = Math.floor(apiary.mites * (treatment === 'none' ? 5 : 2.6) * -Math.log(1 - random.unit()));
    const frames = clamp(Math.round(11 + 2.6 * apiary.vigour + 3 * normal(random)), 2, 20);
    const brood = clamp(Math.round(frames / 2.4 + normal(random)), 0, 9);
    const stores = clamp(17.5 + 2 * apiary.vigour + 4.5 * normal(random), 2, 38);
    const feeder = pick(['yes', 'yes', 'no', 'no', 'no feeder fitted'] as const, random);
    const hive = pick(HIVES, random);
    const score =
      1.35 + 0.22 * (frames - 11) - 0.21 * (mites - 3) + 0.1 * (stores - 17.5) + (feeder === 'yes' ? 0.25 : 0) -
      0.003 * (apiary.altitude - 160) + 0.8 * apiary.vigour; // prettier-ignore
    const survived = random.unit() < 1 / (1 + Math.exp(-score));
    const spring = survived ? clamp(Math.round(9 + 3 * normal(random)), 1, 22) : random.unit() < 0.85 ? 0 : 1;
    const day = new Date(Date.UTC(2024, 8, 20 + apiary.day + random.below(4))).toISOString().slice(0, 10);
    // Three keepers often leave the wash out.
    const washed = random.unit() >= (['Gorse', 'Moor', 'Yew'].includes(apiary.name) ? 0.24 : 0.012);
    records.push([
      `HL-${String(i + 1).padStart(4, '0')}`,
      apiary.name,
      day,
      String(frames),
      random.unit() < 0.008 ? null : String(brood),
      random.unit() < 0.025 ? null : stores.toFixed(1),
      washed ? String(mites) : null,
      treatment,
      feeder,
      hive,
      String(apiary.altitude),
      String(spring),
      survived ? 'yes' : 'no',
    ]);
  }
  for (let i = 0; i < UNLABELLED; i++) {
    const record = pick(records, random);
    record[12] = null;
  }
  for (let i = 0; i < REPEATED; i++) {
    const record = pick(records, random);
    records.splice(random.below(records.length), 0, [...record]);
  }
  return writeRecords(
    [
      'colony', 'apiary', 'inspected', 'frames_of_bees', 'brood_frames', 'stores_kg', 'mite_wash', 'treatment',
      'feeder', 'hive_type', 'altitude_m', 'spring_frames', 'survived',
    ], // prettier-ignore
    records,
  );
}

/** What makes the table fit to teach with. The wash that was left out stays blank: students are to notice it. */
export const OVERWINTERING_STEPS: readonly Step[] = [
  { kind: 'drop-missing', values: { how: 'any', columns: ['survived'] } },
  { kind: 'drop-repeated', values: { columns: [] } },
  { kind: 'merge-values', values: { values: ['no feeder fitted'], column: 'feeder', into: 'no' } },
  {
    kind: 'fill',
    values: {
      columns: ['brood_frames', 'stores_kg'],
      how: 'median',
      value: '',
      group: 'apiary',
      indicator: 'no',
    },
  },
];
