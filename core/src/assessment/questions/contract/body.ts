import { SieveError } from '../../../foundation/errors.js';
import type { PlanValue } from '../../../data/sentence/parameter.js';
import type { Plan } from '../../../data/sentence/sentence.js';
import type { MarkScheme } from '../../marking/scheme.js';
import type { SentenceValues } from './answer.js';

const LONGEST_NAME = 60;
const MOST_ENTRIES = 50;

const isObject = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const isTexts = (value: unknown): value is readonly string[] =>
  Array.isArray(value) && value.every((one) => typeof one === 'string');

const isPlanValue = (value: unknown): value is PlanValue =>
  typeof value === 'string' ||
  typeof value === 'number' ||
  isTexts(value) ||
  (Array.isArray(value) && value.every(isTexts));

/** An object of JSON that comes from outside: its fields are read one by one, each as what it must be. */
export class Body {
  private readonly known = new Set<string>();
  private readonly parts: Body[] = [];

  /** @throws SieveError `question` where it is no object */
  constructor(
    private readonly value: unknown,
    private readonly place = '',
  ) {
    if (!isObject(value)) throw this.wrong(null, 'an object');
  }

  /** @throws SieveError `question` for anything but a text of so many characters at most */
  text(key: string, most = LONGEST_NAME): string {
    const value = this.field(key) ?? '';
    if (typeof value !== 'string') throw this.wrong(key, 'a text');
    if (value.length > most) throw this.wrong(key, `a text of at most ${most} characters`);
    return value;
  }

  /** @throws SieveError `question` for anything but a number; `missing` where there is none */
  number(key: string, missing: number): number {
    const value = this.field(key) ?? missing;
    if (typeof value !== 'number') throw this.wrong(key, 'a number');
    return value;
  }

  /** @throws SieveError `question` for anything but true or false; false where there is none */
  flag(key: string): boolean {
    const value = this.field(key) ?? false;
    if (typeof value !== 'boolean') throw this.wrong(key, 'true or false');
    return value;
  }

  /**
   * The values of a sentence; none where there are none. An empty field comes as null, which its kind refuses by its label.
   *
   * @throws SieveError `question`
   */
  values(key: string): SentenceValues {
    const value = this.field(key) ?? {};
    if (!isObject(value)) throw this.wrong(key, 'an object');
    for (const [name, one] of Object.entries(value))
      if (one !== null && !isPlanValue(one))
        throw this.wrong(`${key}.${name}`, 'a text, a number, or a list of texts');
    return value as SentenceValues;
  }

  /** A kind and its values. @throws SieveError `question` */
  plan(key: string): Plan {
    const body = this.object(key);
    return { kind: body.text('kind'), values: body.values('values') };
  }

  /** A line of marks; numbers that are missing are refused by `checkScheme`. @throws SieveError `question` */
  scheme(key: string): MarkScheme {
    const body = this.object(key);
    const of = (name: string) => body.number(name, NaN);
    return {
      nothing: of('nothing'),
      most: of('most'),
      all: of('all'),
      mostMarks: of('mostMarks'),
      marks: of('marks'),
      doubt: body.flag('doubt'),
    };
  }

  /** The objects of a list; none where there is none. @throws SieveError `question` */
  list(key: string): readonly Body[] {
    const value = this.field(key) ?? [];
    if (!Array.isArray(value)) throw this.wrong(key, 'a list');
    if (value.length > MOST_ENTRIES) throw this.wrong(key, `a list of at most ${MOST_ENTRIES}`);
    return value.map((one, i) => this.part(one, `${key}.${i}`));
  }

  has(key: string): boolean {
    return this.field(key) !== undefined && this.field(key) !== null;
  }

  private object(key: string): Body {
    return this.part(this.field(key) ?? {}, key);
  }

  private part(value: unknown, key: string): Body {
    const part = new Body(value, this.placeOf(key));
    this.parts.push(part);
    return part;
  }

  /**
   * Makes sure that nothing is said but what was read.
   *
   * @throws SieveError `question` with the first field that nobody asked for
   */
  refuseOthers(): void {
    const stray = Object.keys(this.value as object).find((key) => !this.known.has(key));
    if (stray !== undefined)
      throw new SieveError('question', `There is nothing called ${this.placeOf(stray)}.`, {
        field: this.placeOf(stray),
      });
    this.parts.forEach((part) => {
      part.refuseOthers();
    });
  }

  private field(key: string): unknown {
    this.known.add(key);
    return (this.value as Readonly<Record<string, unknown>>)[key];
  }

  private readonly placeOf = (key: string): string => (this.place === '' ? key : `${this.place}.${key}`);

  private wrong(key: string | null, what: string): SieveError {
    const field = key === null ? this.place : this.placeOf(key);
    return new SieveError('question', `${field} is not ${what}.`, { field });
  }
}
