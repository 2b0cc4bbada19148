import { describe, expect, it } from '@jest/globals';
import { fileURLToPath } from 'node:url';
import { Folder } from './sieve.js';

const WINE = fileURLToPath(new URL('../../core/test/reference/tree-wine/data.csv', import.meta.url));

/** The classes of the wines stand one after another: 59, 71 and 48 rows. */
const wineClass = (row: number): string => `class_${row < 59 ? 0 : row < 130 ? 1 : 2}`;

describe('sieve fit of families that combine or train', () => {
  it('a forest: its error out of bag, tree by tree, and importances; saved, it predicts the same', () => {
    const folder = new Folder();
    const { out_of_bag: bag, importances } = folder.json([
      ...['fit', WINE, '--target', 'target', '--model', 'forest', '--seed', '1'],
      ...['--set', 'trees=30', '--set', 'features_per_split=2', '--save', 'forest.json'],
    ]);
    const { error, by_trees: byTrees } = bag as { error: number; by_trees: number[] };
    expect(byTrees).toHaveLength(30);
    expect(error).toBe(byTrees.at(-1));
    expect(error).toBeLessThan(0.08);
    expect((importances as { share: number }[]).reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 9);
    const again = folder.json(['predict', '--model', 'forest.json', '--data', WINE]);
    const { predictions } = again as { predictions: { prediction: string }[] };
    expect(predictions).toHaveLength(178);
    // A forest knows its training rows by heart.
    expect(predictions.filter(({ prediction }, row) => prediction !== wineClass(row)).length).toBeLessThan(3);
  });

  it('boosting, a vector machine and a network, with their settings', () => {
    const fitted = (model: string, ...settings: string[]) =>
      new Folder().json([
        'fit',
        WINE,
        ...['--seed', '1', '--target', 'target', '--model', model, '--cv', '5', '--stratify', 'target'],
        ...settings.flatMap((setting) => ['--set', setting]),
      ]);
    const accuracy = (json: Record<string, unknown>) =>
      (json as { metrics: { cv: { mean: { accuracy: number } } } }).metrics.cv.mean.accuracy;
    const boosted = fitted('boosting', 'rounds=20', 'learning_rate=0.3', 'leaves=4', 'rows_per_leaf=5');
    expect(accuracy(boosted)).toBeGreaterThan(0.9);
    expect((boosted as { by_rounds: { training: number[] } }).by_rounds.training).toHaveLength(20);
    const machine = fitted('vector-machine', 'kernel=linear', 'cost=0.1');
    expect(accuracy(machine)).toBeGreaterThan(0.95);
    const net = fitted('network', 'layers=20,10', 'epochs=40', 'learning_rate=0.01', 'batch=30');
    expect(accuracy(net)).toBeGreaterThan(0.94);
    expect((net as { by_epochs: { validation: unknown } }).by_epochs.validation).toBeNull();
  });

  it('takes settings that are not named as they begin, the penalty of boosting too', () => {
    const { settings } = new Folder().json([
      ...['fit', WINE, '--target', 'target', '--model', 'boosting', '--set', 'rounds=2', '--seed', '1'],
    ]);
    expect(settings).toMatchObject({ penalty: 0, learning_rate: 0.1, leaves: 31, rows_per_leaf: 20 });
  });

  it('refuses layers of a network that are none, by their name', () => {
    const { code, said } = new Folder().run([
      ...['fit', WINE, '--target', 'target', '--model', 'network', '--seed', '1'],
      ...['--set', 'layers=wide'],
    ]);
    expect(code).toBe(2);
    expect(said).toContain('Layers are whole numbers from 1 to 1000');
  });
});
