import type { Metric } from '../../metrics/metric.js';
import { metricNamed } from '../../metrics/registry.js';
import { counted } from '../../foundation/numbers.js';
import { lateWords, type AttemptPolicy } from '../policy/attempts.js';
import { deadlineText } from '../policy/deadline.js';
import { NOBODY } from '../generators/respondent.js';
import { questionKindOf } from '../questions/registry.js';
import type { ReleasedQuestion } from './released-question.js';

/** What the brief of a pack says around its questions. */
export interface BriefHead {
  readonly title: string;
  /** Markdown. */
  readonly brief: string;
  /** When answers are taken and how many, a line each; see `conditionLines`. */
  readonly conditions: readonly string[];
}

/** When and how often answers are taken, as the exercise's page says it. */
export function conditionLines(
  policy: Omit<AttemptPolicy, 'deadline'> & { readonly counts: 'best' | 'last' },
  deadline: string,
  timeZone: string,
): string[] {
  const late = lateWords(policy);
  const { attempts, perDay, counts } = policy;
  return [
    `Due **${deadlineText(deadline, timeZone)}**${late === '' ? '' : `; ${late}`}, unless you were given a date of your own.`,
    `${counted(attempts, 'attempt')}${perDay === null ? '' : `, ${perDay} a day,`} at each question; the ${counts} counts.`,
  ];
}

/** The exercise as its page has it, in Markdown; what differs between students is left to the page. */
export function briefText(
  { title, brief, conditions }: BriefHead,
  questions: readonly ReleasedQuestion[],
): string {
  const parts = [
    `# ${title}`,
    conditions.join('  \n'),
    brief.trim(),
    ...(questions.length > 0 ? ['## Questions'] : []),
    ...questions.flatMap((question, i) => questionParts(question, i + 1)),
  ];
  return `${parts.filter((part) => part !== '').join('\n\n')}\n`;
}

/** By what a submission is scored, in a sentence. */
export const metricSentence = ({ name, better }: Pick<Metric, 'name' | 'better'>): string =>
  `Judged by ${name}; ${better} is better.`;

function questionParts(question: ReleasedQuestion, place: number): string[] {
  const { kind, rules, example, marks, title } = question;
  const head = `### ${place}. ${title} (${counted(marks, 'mark')})`;
  const judged = 'metric' in rules && rules.metric !== null ? metricNamed(rules.metric) : null;
  const form = questionKindOf(kind);
  if (form.isPersonal(rules))
    return [head, 'Each student gets a question of their own: read yours on the page of the exercise.'];
  const { text, table, fields, checked } = form.sheet(question, rules, NOBODY);
  return [
    head,
    text.trim(),
    table === null ? '' : tableText(table),
    checked,
    fields.length === 0 ? '' : `Asked: ${fields.map(({ label }) => label).join(', ')}.`,
    judged === null ? '' : metricSentence(judged),
    example === null ? '' : `An example of the file is in ${example}; it holds no answer.`,
  ];
}

/** A table in Markdown. */
const tableText = ({
  header,
  rows,
}: {
  readonly header: readonly string[];
  readonly rows: readonly (readonly string[])[];
}): string =>
  [header, header.map(() => '---'), ...rows].map((cells) => `| ${cells.join(' | ')} |`).join('\n');
