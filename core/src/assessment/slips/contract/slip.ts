/** A known mistake that would have produced exactly this wrong answer, as a class reads of it. */
export interface Slip {
  /** Never changes: results hold it. */
  readonly id: string;
  /** As an instructor would name it. */
  readonly title: string;
  /** What the student is told: the mistake, and no number of the answer. */
  readonly says: string;
  /** What to do about it, in two sentences. */
  readonly remedy: string;
  /** The mistake and what is right, on numbers of its own. */
  readonly example: string;
  /**
   * What it is found from: what was handed in and what students know, so that it says nothing of the key; or the key.
   */
  readonly from: 'form' | 'key';
}

/** A slip that was found in an answer. */
export interface FoundSlip {
  readonly id: string;
  /** The question that was answered. */
  readonly question: string;
  /** The figure in which it was found; null for a whole file. */
  readonly field: string | null;
  /** What was found, for staff. */
  readonly evidence: string;
  /** Staff named it; it was not found. */
  readonly byHand?: true;
}
