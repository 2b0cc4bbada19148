import { seededRandom } from '@modest-sieve/core/foundation';
import { writeRecords, type Step } from '@modest-sieve/core/data';
import { APIARIES, clamp, HIVES, normal, pick } from './chance.js';

const SEED = 1609;
const HIVES_IN_ALL = 370;
const SEASONS = [2019, 2020, 2021, 2022, 2023, 2024] as const;
const DAY = 24 * 3600 * 1000;
/** The last two are grown in few places only. */
const FORAGES = [
  'lime', 'lime', 'lime', 'clover', 'clover', 'clover', 'bramble', 'bramble', 'heather', 'heather', 'rape', 'rape',
] as const; // prettier-ignore
const RARE_FORAGES = ['buckwheat', 'phacelia', 'sainfoin'] as const;

/** What each hive gave in each season: about 2,200 records, with two weather columns that are nearly one. */
export function honeyYieldCsv(): string {
  const random = seededRandom(SEED, 'honey yield');
  const weather = new Map(
    SEASONS.map((season) => [season, { sun: 620 + 70 * normal(random), rain: 240 + 60 * normal(random) }]),
  );
  const sites = APIARIES.map((name) => ({
    name,
    forage: pick(FORAGES, random),
    worth: 0.25 * normal(random),
  }));
  const records: (string | null)[][] = [];
  for (let hive = 0; hive < HIVES_IN_ALL; hive++) {
    const site = pick(sites, random);
    const kind = pick(HIVES, random);
    for (const season of SEASONS) {
      const { sun, rain } = weather.get(season) ?? { sun: 600, rain: 240 };
      const own = sun + 18 * normal(random);
      const forage = random.unit() < 0.011 ? pick(RARE_FORAGES, random) : site.forage;
      const bees = clamp(Math.round(13 + 3.4 * normal(random)), 3, 22);
      const growth =
        2.55 + 0.055 * (bees - 13) + 0.0028 * (own - 620) - 0.0012 * (rain - 240) + site.worth +
        (forage === 'lime' ? 0.2 : forage === 'heather' ? -0.25 : 0) + 0.32 * normal(random); // prettier-ignore
      const harvested = new Date(Date.UTC(season, 6, 20) + Math.round(26 + 13 * normal(random)) * DAY)
        .toISOString()
        .slice(0, 10);
      const [year = '', month = '', day = ''] = harvested.split('-');
      records.push([
        `S-${String(hive + 1).padStart(3, '0')}-${season}`,
        site.name,
        String(season),
        // Half of the keepers write the day first.
        hive % 2 === 0 ? harvested : `${day}.${month}.${year}`,
        forage,
        kind,
        String(bees),
        own.toFixed(0),
        // The station reckons warmth from sunshine, so that one is nearly the other.
        (7.2 + 0.014 * own + 0.04 * normal(random)).toFixed(2),
        random.unit() < 0.02 ? null : (rain + 25 * normal(random)).toFixed(0),
        Math.exp(growth).toFixed(1),
      ]);
    }
  }
  return writeRecords(
    [
      'season_id', 'apiary', 'season', 'harvested', 'forage', 'hive_type', 'frames_in_june', 'sun_hours',
      'mean_temperature', 'rain_mm', 'honey_kg',
    ], // prettier-ignore
    records,
  );
}

export const HONEY_YIELD_STEPS: readonly Step[] = [
  { kind: 'convert', values: { columns: ['harvested'], as: 'date', otherwise: 'refuse' } },
  { kind: 'rare-categories', values: { column: 'forage', least: 30, how: 'together', name: 'other' } },
  { kind: 'drop-columns', values: { columns: ['mean_temperature'] } },
  {
    kind: 'fill',
    values: { columns: ['rain_mm'], how: 'median', value: '', group: 'season', indicator: 'no' },
  },
];
