import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import type { ColumnInfo } from '../../data/sentence/parameter.js';
import { checkPlanned, kindIn, type Plan } from '../../data/sentence/sentence.js';
import type { Task } from '../../data/table/roles.js';
import type { ModelFamily } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import type { ModelState } from '../contract/state.js';
import { LEARNERS } from '../learners/learners.js';
import { typedModel } from '../learners/typed.js';
import type { Target } from '../prepared/target.js';

/** A model that is combined with others. */
export interface Member {
  readonly kind: ModelFamily;
  readonly plan: Plan;
}

/** Numbers that the models of a combination may hold together: all of them are kept. */
const MOST_NUMBERS = 5_000_000;

/**
 * A model in one line: its family, then settings as the command line has them, `forest trees=200 depth=6`. A value runs to the
 * next setting, so that names of columns may hold blanks.
 *
 * @throws SieveError `plan-kind`, `plan-value`
 */
export function memberIn(line: string, field: string): Member {
  const [key = '', ...settings] = line.trim().split(/\s+(?=\w+=)/);
  try {
    const kind = kindIn(LEARNERS, key, 'model to combine');
    return { kind, plan: typedModel(kind, settings, field) };
  } catch (error) {
    throw inField(error, field, line);
  }
}

/**
 * Makes sure that a model can be fitted for a task.
 *
 * @throws SieveError `plan-value`, `no-such-column` with the field
 */
export function checkMember(line: string, field: string, task: Task, columns: readonly ColumnInfo[]): void {
  const { kind, plan } = memberIn(line, field);
  if (!kind.tasks.includes(task))
    throw new SieveError('plan-value', `“${line}”: ${kind.title} does not predict for this task.`, { field });
  try {
    checkPlanned(kind, plan, columns);
  } catch (error) {
    throw inField(error, field, line);
  }
}

/** An error of one model, which names it. */
function inField(error: unknown, field: string, line: string): unknown {
  if (!(error instanceof SieveError)) return error;
  return new SieveError(error.code, `“${line}”: ${error.message}`, { ...error.place, field });
}

/** Models that are fitted one after another; those that are kept may hold so many numbers together. */
export class Members {
  readonly states: ModelState[] = [];
  private readonly seen = new Set<string>();
  private readonly seed: number;
  private held = 0;

  constructor(
    { random }: Training,
    private readonly field: string,
    private readonly most = MOST_NUMBERS,
  ) {
    this.seed = random.bits() | 0;
  }

  /** A stream of random numbers of its own for each model, so that fewer models are the beginning of more. */
  randomOf(name: string) {
    return seededRandom(this.seed, name);
  }

  /** @throws SieveError `model` with the field, naming the model */
  fitOnce(member: Member, training: Training): ModelState {
    const { kind, plan } = member;
    try {
      const { state, warnings } = kind.fit(training, plan.values);
      for (const warning of warnings) this.seen.add(`${kind.title}: ${warning}`);
      return state;
    } catch (error) {
      throw inField(error, this.field, kind.title);
    }
  }

  /**
   * Fits a model that is part of what is learned.
   *
   * @throws SieveError `model` with the field, also where all of them are too large together
   */
  keep(member: Member, training: Training): ModelState {
    const state = this.fitOnce(member, training);
    this.held += numbersIn(state);
    if (this.held > this.most)
      throw new SieveError(
        'model',
        'These models are too large to be kept together: ask for fewer or smaller ones.',
        { field: this.field },
      );
    this.states.push(state);
    return state;
  }

  get warnings(): string[] {
    return [...this.seen];
  }
}

function numbersIn(value: unknown): number {
  if (ArrayBuffer.isView(value) && 'length' in value) return Number(value.length);
  if (Array.isArray(value)) {
    if (typeof value[0] === 'number') return value.length;
    return value.reduce((sum: number, one: unknown) => sum + numbersIn(one), 0);
  }
  if (typeof value !== 'object' || value === null) return 1;
  return Object.values(value).reduce((sum: number, one: unknown) => sum + numbersIn(one), 0);
}

/** Of a row what is right: for each class 0 or 1, or its number. */
export const truthOf = (target: Target, output: number, row: number): number =>
  target.kind === 'numbers' ? at(target.values, row) : Number(target.codes[row] === output);
