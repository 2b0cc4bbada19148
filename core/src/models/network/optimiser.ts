/** Changes numbers along their gradients. */
export interface Optimiser {
  /** One step for every set of numbers, each with its gradients. */
  step(numbers: readonly Float64Array[], gradients: readonly Float64Array[]): void;
}

/** Plain gradient descent. */
export const gradientDescent = (rate: number): Optimiser => ({
  step: (numbers, gradients) => {
    numbers.forEach((own, k) => {
      descend(own, gradients[k] ?? own, rate);
    });
  },
});

function descend(numbers: Float64Array, gradients: Float64Array, rate: number): void {
  for (let i = 0; i < numbers.length; i++) numbers[i] = (numbers[i] ?? 0) - rate * (gradients[i] ?? 0);
}

const FIRST_DECAY = 0.9;
const SECOND_DECAY = 0.999;
const LEAST = 1e-8;

/** Adam (Kingma and Ba, 2015), with the step and its correction as scikit-learn has them. */
export class Adam implements Optimiser {
  private steps = 0;
  private readonly means: Float64Array[];
  private readonly squares: Float64Array[];

  constructor(
    private readonly rate: number,
    sizes: readonly number[],
  ) {
    this.means = sizes.map((size) => new Float64Array(size));
    this.squares = sizes.map((size) => new Float64Array(size));
  }

  step(numbers: readonly Float64Array[], gradients: readonly Float64Array[]): void {
    this.steps++;
    const rate = (this.rate * Math.sqrt(1 - SECOND_DECAY ** this.steps)) / (1 - FIRST_DECAY ** this.steps);
    numbers.forEach((own, k) => {
      const gradient = gradients[k];
      const mean = this.means[k];
      const square = this.squares[k];
      if (gradient && mean && square) adamStep(own, gradient, mean, square, rate);
    });
  }
}

function adamStep(
  numbers: Float64Array,
  gradients: Float64Array,
  means: Float64Array,
  squares: Float64Array,
  rate: number,
): void {
  for (let i = 0; i < numbers.length; i++) {
    const gradient = gradients[i] ?? 0;
    const mean = FIRST_DECAY * (means[i] ?? 0) + (1 - FIRST_DECAY) * gradient;
    const square = SECOND_DECAY * (squares[i] ?? 0) + (1 - SECOND_DECAY) * gradient * gradient;
    means[i] = mean;
    squares[i] = square;
    numbers[i] = (numbers[i] ?? 0) - (rate * mean) / (Math.sqrt(square) + LEAST);
  }
}
