import { bytesOf, tableOf } from './files.js';
import { draw } from './plans.js';
import { FINAL } from '../src/assessment/material/held-out.js';
import { PUBLIC_SECRET } from '../src/foundation/random/secret.js';
import { markAnswer, type Result } from '../src/assessment/disclosure/result.js';
import type { Subject } from '../src/assessment/questions/contract/kind.js';
import type { Respondent } from '../src/assessment/generators/respondent.js';
import type { Material } from '../src/assessment/material/material.js';
import type { Question, Sheet } from '../src/assessment/questions/question.js';
import type { Answer } from '../src/assessment/questions/contract/answer.js';
import { questionKindOf } from '../src/assessment/questions/registry.js';
import type { Roles } from '../src/data/table/roles.js';

/** 120 colonies of 24 apiaries, of which the first 90 are given and the others held out; two of them are alike. */
const LINES = Array.from({ length: 120 }, (_, i) => {
  const twin = i === 7 ? 2 : i;
  const survived = (twin * 7) % 10 < 6 ? 'yes' : 'no';
  return `c${i},a${Math.floor(i / 5)},${2000 + i},${(twin * 13) % 29},${twin % 4},${survived}`;
});
const COLONIES = tableOf(`colony,apiary,day,weight,frames,survived\n${LINES.join('\n')}\n`);

const COLONY_ROLES: Roles = {
  target: 'survived',
  task: 'binary',
  positive: 'yes',
  identifier: 'colony',
  group: 'apiary',
  time: null,
  weight: null,
  withheld: [],
};

export const SUBJECT: Subject = { columns: COLONIES.columns, roles: COLONY_ROLES };
export const GIVEN = 90;

export const material = (over: Partial<Material> = {}): Material => ({
  table: COLONIES,
  roles: COLONY_ROLES,
  plan: draw(),
  parts: Int8Array.from({ length: 120 }, (_, i) => (i < GIVEN ? 0 : 2)),
  folds: null,
  division: Uint8Array.from({ length: 120 }, (_, i) => (i < GIVEN ? 0 : FINAL)),
  secret: PUBLIC_SECRET,
  curves: {},
  references: [],
  ...over,
});

/** A question as it is begun, with other values. */
export function begun<K extends Question['kind']>(
  kind: K,
  over: Partial<Extract<Question, { kind: K }>> = {},
): Extract<Question, { kind: K }> {
  const question = questionKindOf(kind).begin('q1', SUBJECT) as Extract<Question, { kind: K }>;
  const values =
    'values' in question && 'values' in over ? { values: { ...question.values, ...over.values } } : {};
  return { ...question, ...over, ...values };
}

const WHO: Respondent = { secret: PUBLIC_SECRET, question: 'q1', id: 'somebody' };

/** A question with its key, to hand in to. */
export function asked(question: Question, from: Material = material()) {
  const kind = questionKindOf(question.kind);
  kind.check(question, { columns: from.table.columns, roles: from.roles });
  const { rules, key, example, about } = kind.make(question, from);
  return {
    rules,
    key,
    example,
    about,
    sheet: (who = WHO): Sheet => kind.sheet({ ...question, marks: 0 }, rules, who),
    hand: (answer: Partial<Answer>, who = WHO): Result =>
      markAnswer(question, { file: null, fields: {}, ...answer }, rules, key, {
        who,
        stepped: false,
        before: null,
      }),
  };
}

export const fileOf = (text: string | Uint8Array, name = 'answer.csv') => ({
  name,
  bytes: typeof text === 'string' ? bytesOf(text) : text,
});

/** The ids of the checks that did not hold, of a file or of marks. */
export const failing = ({ checks, judged }: Result): string[] =>
  [...checks, ...judged.map(({ check }) => check)]
    .filter(({ outcome }) => outcome === 'fails')
    .map(({ id }) => id);
