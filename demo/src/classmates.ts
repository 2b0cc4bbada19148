/** How a student of the demo predicts: the model, its features, and the mistake that they make, if any. */
export interface Way {
  /** A family with its settings, as they are typed. */
  readonly model: string;
  readonly features: readonly string[];
  readonly mistake?: 'exchanged' | 'shifted' | 'edited';
}

/** A student of the demo whose answers are made by really fitting models, and really making mistakes. */
export interface Classmate {
  readonly name: string;
  readonly email: string;
  /** What they hand in to the questions of predictions, one file after the other. */
  readonly tries: readonly Way[];
  /** Questions of the lessons in figures that they answer incorrectly, by a known mistake or by a near miss. */
  readonly slips: readonly string[];
  /** Lessons that they get to. */
  readonly lessons: number;
  /** What they do to precision and recall. */
  readonly counts: 'right' | 'exchanged' | 'accuracy' | 'miscounted' | 'left out';
}

const HIVE = ['frames_of_bees', 'mite_wash', 'stores_kg'];
const MORE = [...HIVE, 'brood_frames', 'treatment', 'feeder'];
const ALL = [...MORE, 'hive_type', 'altitude_m'];

const way = (model: string, features: readonly string[], mistake?: Way['mistake']): Way => ({
  model,
  features,
  ...(mistake ? { mistake } : {}),
});

const mate = (
  name: string,
  tries: readonly Way[],
  lessons: number,
  slips: string,
  counts: Classmate['counts'],
): Classmate => ({
  name,
  email: `${(name.split(' ')[0] ?? '').toLowerCase()}@hollow-lane.example`,
  tries,
  lessons,
  slips: slips === '' ? [] : slips.split(' '),
  counts,
});

/** All invented. */
export const CLASSMATES: readonly Classmate[] = [
  mate('Ansel Brodie', [way('tree', ALL), way('logistic', HIVE)], 6, 'q6', 'right'),
  mate('Beatrix Lowe', [way('logistic', MORE)], 6, '', 'exchanged'),
  mate('Cosmo Adeyemi', [way('nearest neighbours=5', HIVE), way('nearest neighbours=25', HIVE)], 4, 'q1', 'right'),
  mate('Delphine Marsh', [way('tree depth=3', ALL)], 6, 'q1 q6', 'right'),
  mate('Edda Sorensen', [way('forest trees=40', ALL)], 6, '', 'right'),
  mate('Fergus Tully', [way('logistic', ['frames_of_bees'], 'exchanged')], 3, 'q1', 'exchanged'),
  mate('Greta Nwosu', [way('tree depth=12 rows_per_leaf=1', ALL), way('tree depth=4 rows_per_leaf=10', ALL), way('forest trees=40', MORE)], 6, 'q6', 'right'),
  mate('Hamish Orr', [way('naive-bayes', ALL)], 5, 'q2', 'accuracy'),
  mate('Imogen Vale', [way('logistic', ALL), way('logistic', MORE)], 6, 'q6', 'right'),
  mate('Jarek Pell', [way('most-frequent', HIVE), way('tree depth=2', ['mite_wash'])], 2, 'q1', 'exchanged'),
  mate('Kerensa Toll', [way('logistic', ALL, 'shifted')], 4, 'q6', 'right'),
  mate('Lorcan Diaz', [way('ridge penalty=1', MORE), way('logistic', MORE)], 5, 'q4', 'miscounted'),
  mate('Maren Quill', [way('boosting rounds=60', ALL)], 6, 'q6', 'right'),
  mate('Nestor Bly', [way('tree', ['mite_wash', 'altitude_m'])], 3, 'q1 q5', 'exchanged'),
  // These two handed in one another's file, with a few lines changed.
  mate('Orla Fenn', [way('logistic', ['altitude_m', 'stores_kg', 'brood_frames'])], 6, 'q2', 'right'),
  mate('Perrin Shaw', [way('logistic', ['altitude_m', 'stores_kg', 'brood_frames'], 'edited')], 6, 'q2', 'right'),
  mate('Quilla Reyes', [way('logistic', HIVE)], 6, '', 'right'),
  mate('Rufus Hale', [way('logistic', HIVE, 'exchanged'), way('logistic', HIVE)], 6, 'q1', 'right'),
  mate('Saskia Wren', [way('tree depth=5', MORE)], 6, 'q6', 'exchanged'),
  mate('Tobias Crane', [], 0, '', 'left out'),
  mate('Una Whitlock', [way('forest trees=60 rows_per_leaf=5', MORE), way('logistic', ALL)], 6, 'q6', 'right'),
]; // prettier-ignore
