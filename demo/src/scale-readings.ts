import { seededRandom } from '@modest-sieve/core/foundation';
import { writeRecords, type Step } from '@modest-sieve/core/data';
import { normal } from './chance.js';

const SEED = 1901;
const HIVES_WEIGHED = 12;
const HOURS = 5040;
const START = Date.UTC(2026, 2, 1);
const HOUR = 3600 * 1000;
const TOMORROW = 24;
/** Its scale reads a little more every day. */
const DRIFTING = 6;
const DRIFT = 0.005;

/** Hourly weights of twelve hives from March to September: about 60,000 readings, with gaps, and one scale that drifts. */
export function scaleReadingsCsv(): string {
  const random = seededRandom(SEED, 'scale readings');
  let warmth = 0;
  let wet = 0;
  const weather = Array.from({ length: HOURS + TOMORROW }, (_, hour) => {
    warmth = 0.985 * warmth + 0.35 * normal(random);
    wet = 0.93 * wet + 0.5 * normal(random);
    const season = Math.sin((Math.PI * (hour / 24 + 20)) / 230);
    const day = Math.sin((2 * Math.PI * ((hour % 24) - 9)) / 24);
    return { temperature: 4 + 15 * season + 5 * day + warmth, rain: Math.max(0, wet - 1.6), day, season };
  });
  const records: (string | null)[][] = [];
  for (let hive = 0; hive < HIVES_WEIGHED; hive++) {
    let stores = 18 + 4 * normal(random);
    const vigour = 1 + 0.25 * normal(random);
    const weights = weather.map(({ temperature, rain, day, season }) => {
      const flow = temperature > 13 && rain < 0.1 ? 0.022 * vigour * season * Math.max(0, day + 0.3) : 0;
      stores = Math.max(4, stores + flow - 0.006 + 0.01 * normal(random));
      return 21 + stores - 0.35 * Math.max(0, day);
    });
    const gaps = Array.from({ length: 4 }, () => ({
      from: random.below(HOURS),
      length: 6 + random.below(40),
    }));
    for (let hour = 0; hour < HOURS; hour++) {
      if (gaps.some(({ from, length }) => hour >= from && hour < from + length)) continue;
      const now = weather[hour];
      const read = (at: number) =>
        (weights[at] ?? 0) + (hive === DRIFTING ? DRIFT * at : 0) + 0.05 * normal(random);
      records.push([
        `scale ${String(hive + 1).padStart(2, '0')}`,
        new Date(START + hour * HOUR).toISOString().slice(0, 16),
        random.unit() < 0.004 ? null : read(hour).toFixed(2),
        (now?.temperature ?? 0).toFixed(1),
        (now?.rain ?? 0).toFixed(1),
        (4.1 - 0.00012 * hour + 0.01 * normal(random)).toFixed(2),
        read(hour + TOMORROW).toFixed(2),
      ]);
    }
  }
  return writeRecords(
    ['scale', 'read_at', 'weight_kg', 'temperature_c', 'rain_mm', 'battery_v', 'weight_tomorrow_kg'],
    records,
  );
}

export const SCALE_READINGS_STEPS: readonly Step[] = [
  { kind: 'drop-missing', values: { how: 'any', columns: ['weight_kg'] } },
  {
    kind: 'date-parts',
    values: { column: 'read_at', parts: ['month', 'hour'], holidays: [] },
  },
];
