import type { FileSize } from '../files/file-limits.js';
import type { Rules } from './question.js';

/** As much of the rules as says how large an answer's file can be. */
export const fileSizeOf = (rules: Rules): FileSize => ({
  ...('identifiers' in rules ? { identifiers: rules.identifiers } : {}),
  ...('labels' in rules ? { labels: rules.labels } : {}),
  ...('settings' in rules ? { settings: rules.settings } : {}),
  ...('takes' in rules ? { model: true } : {}),
});
