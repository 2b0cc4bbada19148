import type {
  AnswerEvidence,
  ClassRows,
  Likeness,
  MarkScheme,
  OptionChosen,
} from '@modest-sieve/core/assessment';
import type { ReceiptOutcome } from './submissions.js';

// What the HTTP API answers of a class: its answers together.

/** What a student's answers to one question come to. */
export interface ClassAnswer {
  readonly question: string;
  readonly submissions: number;
  readonly waiting: number;
  readonly counting: string | null;
  /** Of predictions, on the final rows. */
  readonly score: number | null;
  readonly marks: number | null;
  /** The line by which the counting answer was marked; null where there is none. */
  readonly line: MarkScheme | null;
  readonly lastAt: string | null;
}

/** One line of the class view: a student and what counts of their answers. */
export interface ClassLine {
  readonly person: { readonly id: string; readonly name: string };
  /** Part of the course in which the student is taught; null for none. */
  readonly section: string | null;
  /** One for each question, in their order. */
  readonly answers: readonly ClassAnswer[];
  /** Of all questions; null where nothing counts. */
  readonly marks: number | null;
  /** A deadline of their own; null for that of the exercise. */
  readonly deadline: string | null;
}

/** Something that was found in answers. */
export interface FoundIn {
  /** Ids of submissions: the last of each student in which it was found. */
  readonly answers: readonly string[];
}

/** A known mistake, and in whose answers it is. */
export interface ClassSlip extends FoundIn {
  readonly question: string;
  readonly id: string;
  readonly title: string;
  /** What shows it in one of the answers. */
  readonly evidence: string;
  /** Whether staff named it in one of them, where it was not found. */
  readonly byHand: boolean;
}

/** A check that answers fail, and whose. */
export interface ClassCheck extends FoundIn {
  /** Stable name of the check. */
  readonly id: string;
  /** What it said of one of them. */
  readonly message: string;
}

/** How the class did on a question. */
export interface ClassQuestion {
  readonly question: string;
  /** Students who have marks for it. */
  readonly answered: number;
  /** Students who have marks for any question, of whom the figures are; what one of them did not answer earned nothing. */
  readonly students: number;
  /** Mean share of the marks, from 0 to 1; null where nobody has marks. */
  readonly share: number | null;
  /** Correlation with the marks for the other questions, with a 95 % interval; null of one question or of few students. */
  readonly discrimination: { readonly value: number; readonly low: number; readonly high: number } | null;
  /** The one that most students failed first; at most eight. */
  readonly failing: readonly ClassCheck[];
  /** Known mistakes that were found in its answers, and those of them that staff dismissed: false claims. */
  readonly found: { readonly slips: number; readonly dismissed: number };
}

export interface ClassView {
  /** In the order of the exercise. */
  readonly questions: readonly ClassQuestion[];
  /** The commonest first. */
  readonly slips: readonly ClassSlip[];
  readonly lines: readonly ClassLine[];
  readonly submissions: readonly ReceiptLine[];
}

/** What the answers of a class to one question have in common, of those that count. */
export interface ClassAnswersInfo {
  /** Of predictions, the rows and subgroups that are missed; null of other questions, and where nobody has a file that counts. */
  readonly rows: ClassRows | null;
  /** Students whose files were not read, since all together are too large. */
  readonly leftOut: number;
  /** How often each option was chosen; none where nothing is chosen. */
  readonly options: readonly OptionChosen[];
}

/** Where an answer goes wrong; null of one that is not a file of predictions that can be read. */
export interface AnswerEvidenceInfo {
  readonly evidence: AnswerEvidence | null;
}

/** Answers to a question that are alike, of different students. None of it says why. */
export interface LikenessInfo extends Likeness {
  /** Answers that were compared. */
  readonly compared: number;
  /** Answers that were left out, since all files together are too large. */
  readonly leftOut: number;
  /** Answers with one and the same file, by id; what one program writes is the same for all who run it. */
  readonly same: readonly (readonly string[])[];
}

/** A submission in a list, without its figures. */
export interface ReceiptLine {
  readonly id: string;
  readonly personId: string;
  readonly question: string;
  readonly number: number;
  readonly receivedAt: string;
  /** Whether it came after its student's deadline and the grace, so that marks are taken off. */
  readonly late: boolean;
  readonly outcome: ReceiptOutcome;
}

/** How worn the feedback rows of a question of predictions are. */
export interface WearInfo {
  /** Answers of the class that were checked. */
  readonly attempts: number;
  /** Scores on the feedback rows that students were shown. */
  readonly shown: number;
  readonly students: number;
  /** Mean by which students' best answers on the feedback rows do worse on the final rows; null where none has both. */
  readonly gap: number | null;
  /** What the choice of the best gives by chance, in 95 of 100 partings from `low` to `high`; null where it cannot be judged. */
  readonly expected: { readonly mean: number; readonly low: number; readonly high: number } | null;
  /** Share of the partings with a gap as large. */
  readonly asLarge: number | null;
  /** Why nothing is expected; null where something is. */
  readonly reason: string | null;
}
