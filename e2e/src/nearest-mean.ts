type Flower = readonly [number, number, number, number, string];

export const flowers = (csv: string): Flower[] =>
  csv
    .trim()
    .split('\n')
    .slice(1)
    .map((line) => {
      const [a, b, c, d, species] = line.split(',').slice(-5);
      return [Number(a), Number(b), Number(c), Number(d), species ?? ''];
    });

/** Nearest class mean: a model that knows the training rows alone. */
export function nearestMean(training: readonly Flower[]) {
  const species = [...new Set(training.map((flower) => flower[4]))];
  const means = species.map((name) => {
    const own = training.filter((flower) => flower[4] === name);
    return ([0, 1, 2, 3] as const).map((i) => own.reduce((sum, flower) => sum + flower[i], 0) / own.length);
  });
  return (features: readonly number[]): string => {
    const distances = means.map((mean) =>
      mean.reduce((sum, value, i) => sum + (value - (features[i] ?? 0)) ** 2, 0),
    );
    return species[distances.indexOf(Math.min(...distances))] ?? '';
  };
}
