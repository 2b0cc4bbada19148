import { seededRandom, type Random } from '@modest-sieve/core/foundation';
import { writeRecords, type Step } from '@modest-sieve/core/data';
import { clamp, normal, pick } from './chance.js';

const SEED = 1827;
const GRAINS = 3000;
const SLIDES = 75;

/** Mean diameter, elongation, texture and brightness of each plant's grains. Clover and bramble are hard to distinguish. */
const PLANTS = {
  heather: { share: 0.29, diameter: 34, elongation: 1.05, texture: 0.31, brightness: 0.42, pores: 4 },
  clover: { share: 0.26, diameter: 26, elongation: 1.22, texture: 0.52, brightness: 0.57, pores: 3 },
  bramble: { share: 0.24, diameter: 25, elongation: 1.25, texture: 0.55, brightness: 0.6, pores: 3 },
  lime: { share: 0.185, diameter: 30, elongation: 0.86, texture: 0.44, brightness: 0.66, pores: 3 },
  willow: { share: 0.025, diameter: 21, elongation: 1.31, texture: 0.62, brightness: 0.5, pores: 3 },
} as const;
type Plant = keyof typeof PLANTS;
const NAMES = Object.keys(PLANTS) as Plant[];

function drawPlant(random: Random): Plant {
  let left = random.unit();
  for (const name of NAMES) {
    left -= PLANTS[name].share;
    if (left < 0) return name;
  }
  return 'heather';
}

/** Measures of about 3,000 grains from pictures of slides, one of five plants each; one of the plants is rare. */
export function pollenGrainsCsv(): string {
  const random = seededRandom(SEED, 'pollen grains');
  // Each slide was lit and focused in its own way.
  const slides = Array.from({ length: SLIDES }, (_, i) => ({
    name: `slide ${String(i + 1).padStart(2, '0')}`,
    light: 0.045 * normal(random),
    focus: 1 + 0.025 * normal(random),
  }));
  const records = Array.from({ length: GRAINS }, (_, i): (string | null)[] => {
    const slide = pick(slides, random);
    const name = drawPlant(random);
    const plant = PLANTS[name];
    const diameter = plant.diameter * slide.focus * (1 + 0.085 * normal(random));
    const elongation = plant.elongation * (1 + 0.07 * normal(random));
    const pores = clamp(plant.pores + (random.unit() < 0.12 ? 1 : 0) - (random.unit() < 0.08 ? 1 : 0), 1, 6);
    return [
      `grain-${String(i + 1).padStart(4, '0')}`,
      `${slide.name.replace(' ', '')}_${name}_${String(i + 1).padStart(4, '0')}.png`,
      slide.name,
      diameter.toFixed(2),
      elongation.toFixed(3),
      random.unit() < 0.03 ? null : String(pores),
      (plant.texture + 0.06 * normal(random)).toFixed(3),
      (plant.brightness + slide.light + 0.05 * normal(random)).toFixed(3),
      name,
    ];
  });
  return writeRecords(
    ['grain', 'file_name', 'slide', 'diameter_um', 'elongation', 'pores', 'texture', 'brightness', 'plant'],
    records,
  );
}

export const POLLEN_GRAINS_STEPS: readonly Step[] = [
  { kind: 'drop-columns', values: { columns: ['file_name'] } },
  {
    kind: 'fill',
    values: { columns: ['pores'], how: 'most frequent', value: '', group: '', indicator: 'no' },
  },
];
