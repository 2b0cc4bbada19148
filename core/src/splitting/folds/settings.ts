import { repeatedRowsSetting } from '../parts/repeated-rows.js';
import type { Setting, SettingsOf } from '../setting.js';

/** Every setting that a method of making folds can use. The command line makes its options of this list. */
export const FOLD_SETTINGS = {
  k: { type: 'number', text: 'number of folds' },
  stratify: { type: 'column', text: 'equal shares of its values in every fold' },
  group: { type: 'column', text: 'the rows of one of its values stay in one fold' },
  repeats: { type: 'number', text: 'make all folds again so often, with other draws' },
  time: { type: 'column', text: 'folds follow one another in its order' },
  window: { type: 'number', text: 'train on so much time before a fold, not on all of it' },
  gap: { type: 'number', text: 'time left out between training and testing' },
  repeatedRows: repeatedRowsSetting,
} as const satisfies Record<string, Setting>;

/** Values of these settings; those that the method does not use are left out. */
export type FoldSettings = SettingsOf<typeof FOLD_SETTINGS>;
