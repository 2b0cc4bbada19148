import { repeatedRowsSetting } from '../parts/repeated-rows.js';
import type { Setting, SettingsOf } from '../setting.js';

/** Every setting that a method of splitting can use. The command line makes its options of this list. */
export const SPLIT_SETTINGS = {
  stratify: { type: 'column', text: 'equal shares of its values in every part' },
  group: { type: 'column', text: 'the rows of one of its values stay in one part' },
  time: { type: 'column', text: 'parts follow one another in its order' },
  cutOff: { type: 'text', value: 'value', text: 'first point in time of the second part' },
  gap: {
    type: 'number',
    text: 'time left out before each later part: days, or units of a column of numbers',
  },
  every: { type: 'number', text: 'every n-th row goes to the second part' },
  column: { type: 'column', text: 'its values name the parts' },
  identifier: { type: 'column', flag: 'id', text: 'names the rows' },
  salt: { type: 'text', text: 'a row’s part follows from its identifier and this text alone' },
  repeatedRows: repeatedRowsSetting,
} as const satisfies Record<string, Setting>;

/** Values of these settings; those that the method does not use are left out. */
export type SplitSettings = SettingsOf<typeof SPLIT_SETTINGS>;
