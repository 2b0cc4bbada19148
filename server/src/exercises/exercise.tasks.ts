import type { ReleasedBefore } from '../reserve/reserves.service.js';
import type { Secret } from '@modest-sieve/core/foundation';
import type { Roles } from '@modest-sieve/core/data';
import type { FoldAssignment, SplitPlan } from '@modest-sieve/core/splitting';
import { metricNamed } from '@modest-sieve/core/metrics';
import { readFitted } from '@modest-sieve/core/models';
import {
  type BriefHead,
  completeDivision,
  makePack,
  markAnswer,
  questionKindOf,
  withBrief,
  wearOf,
  checkPredictions,
  classOnRows,
  heldOutIn,
  optionsChosen,
  answerEvidence,
  likenessOf,
  type AnswerEvidence,
  type AnswerOf,
  type Likeness,
  type AnswerKey,
  type PredictionRules,
  type EarlierRelease,
  type Wear,
  type ChosenBy,
  type ClassRows,
  type OptionChosen,
  type ReleasedQuestion,
  type Answer,
  type Keys,
  type Pack,
  type Question,
  type Result,
  type Rules,
  type RunCurve,
  type Respondent,
} from '@modest-sieve/core/assessment';
import { tableOf, type StoredTable } from '../store/stored-table.js';
import { tasks } from '../platform/compute/task.js';

/** What a pack and its keys are made of. */
export interface PackInput extends BriefHead {
  readonly stored: StoredTable;
  readonly roles: Roles;
  readonly plan: SplitPlan;
  readonly parts: Int8Array;
  readonly folds: FoldAssignment | null;
  readonly descriptions: Readonly<Record<string, string>>;
  readonly curves: Readonly<Record<string, RunCurve>>;
  /** JSON of the models of the reference runs. */
  readonly references: readonly string[];
  readonly questions: readonly Question[];
  readonly reissued: boolean;
  readonly reserve: Uint8Array;
  readonly secret: Secret;
  readonly earlier: readonly ReleasedBefore[];
  /** Those of earlier releases on other versions, by version. */
  readonly tables: Readonly<Record<string, StoredTable>>;
}

/** The material with tables in place of what is stored. */
function tablesOf<I extends Pick<PackInput, 'stored' | 'references' | 'earlier' | 'tables'>>({
  stored,
  references,
  earlier,
  tables,
  ...rest
}: I) {
  const table = tableOf(stored);
  const others = new Map(Object.entries(tables).map(([version, one]) => [version, tableOf(one)]));
  return {
    ...rest,
    table,
    references: references.map(readFitted),
    earlier: earlier.map((release): EarlierRelease => ({
      ...release,
      table: others.get(release.version) ?? table,
    })),
  };
}

/** Packs that are made, and answers that are marked. */
export const EXERCISE_TASKS = {
  ...tasks('packs', {
    pack(input: PackInput): Pack {
      return makePack(tablesOf(input));
    },
  }),
  ...tasks('quick', {
    /** A pack whose brief was amended. */
    rebrief({ pack, head }: { pack: Pick<Pack, 'zip' | 'files' | 'questions'>; head: BriefHead }) {
      return withBrief(pack, head, pack.questions);
    },

    mark(request: {
      question: Question;
      answer: Answer;
      rules: Rules;
      key: Keys;
      who: Respondent;
      /** Whether the steps of *only when better* are needed. */
      stepped: boolean;
      before: Answer | null;
    }): Result {
      const { question, answer, rules, key, ...marking } = request;
      return markAnswer(question, answer, rules, key, marking);
    },

    /** How worn the feedback rows of a question are, by the files of each student. */
    wear({
      answers,
      rules,
      key,
      metric,
      seed,
    }: {
      answers: readonly (readonly Uint8Array[])[];
      rules: PredictionRules;
      key: AnswerKey;
      metric: string;
      seed: number;
    }): Wear {
      const read = (bytes: Uint8Array) => checkPredictions(bytes, 'the file', rules).predictions;
      const predictions = answers.map((own) => own.map(read).filter((one) => one !== null));
      return wearOf(key, predictions, metricNamed(metric), seed);
    },

    /** Where a class goes wrong in a question of predictions, by one file of each student; null where none can be read. */
    classRows({
      zip,
      files,
      rules,
      key,
    }: {
      zip: Uint8Array;
      files: readonly Uint8Array[];
      rules: PredictionRules;
      key: AnswerKey;
    }): ClassRows | null {
      const features = heldOutIn(zip);
      const answers = files
        .map((bytes) => checkPredictions(bytes, 'the file', rules).predictions)
        .filter((one) => one !== null);
      return features === null || answers.length === 0 ? null : classOnRows(key, rules, answers, features);
    },

    /** Where one answer of predictions goes wrong; null where it cannot be read. */
    answerEvidence({
      zip,
      file,
      rules,
      key,
    }: {
      zip: Uint8Array;
      file: Uint8Array;
      rules: PredictionRules;
      key: AnswerKey;
    }): AnswerEvidence | null {
      const features = heldOutIn(zip);
      const { predictions } = checkPredictions(file, 'the file', rules);
      return features && predictions && answerEvidence(key, rules, predictions, features);
    },

    /** What answers to a question share that those of who works alone hardly do. */
    likeness({
      question,
      zip,
      answers,
      ...by
    }: {
      question: Question;
      zip: Uint8Array;
      answers: readonly AnswerOf[];
      rules: Rules;
      key: Keys;
      secret: Secret;
    }): Likeness {
      return likenessOf(question, by, answers, heldOutIn(zip));
    },

    /** How often the options of a question were chosen. */
    options({
      question,
      key,
      answers,
    }: {
      question: ReleasedQuestion;
      key: Keys;
      answers: readonly ChosenBy[];
    }): OptionChosen[] {
      return optionsChosen(question, key, answers);
    },

    /** By what an answer to a question of a draft would be marked. */
    keyOf({ question, ...input }: Omit<PackInput, 'questions'> & { question: Question }): {
      rules: Rules;
      key: Keys;
    } {
      const divided = tablesOf(input);
      const material = { ...divided, division: completeDivision(divided, divided.reserve) };
      const { rules, key } = questionKindOf(question.kind).make(question, material);
      return { rules, key };
    },
  }),
};
