import type { DemoExercise } from './exercise-parts.js';
import { ON_FIGURES } from './exercises-on-figures.js';
import { ON_MODELS } from './exercises-on-models.js';
import { ON_SPLITS } from './exercises-on-splits.js';

/** An exercise on each topic of the course: prediction, splitting, cross-validation, overfitting, metrics. */
export const DEMO_EXERCISES: readonly DemoExercise[] = [...ON_SPLITS, ...ON_MODELS, ...ON_FIGURES];
