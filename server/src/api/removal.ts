/** What would be deleted with a thing, itself among it, and whether it can be. */
export interface RemovalInfo {
  readonly versions: number;
  readonly splits: number;
  readonly folds: number;
  readonly runs: number;
  /** What uses it, in words; nothing for what can be deleted. */
  readonly usedBy: readonly string[];
  /** Whether no version would be left. */
  readonly isLast: boolean;
}
