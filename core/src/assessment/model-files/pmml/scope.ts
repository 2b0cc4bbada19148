import { at } from '../../../foundation/numbers.js';
import type { Element } from './xml.js';
import { refused } from './xml.js';
import type { Field, FieldType, Get, Value } from './row.js';

/** A column that the file declares. */
export interface Input {
  readonly name: string;
  readonly type: FieldType;
  /** Valid values of a category; null where any is. */
  readonly values: readonly string[] | null;
}

/** What all models of a file share while it is read. */
export class Shared {
  /** Columns that predictions depend on, in the order in which they are first referred to. */
  readonly inputs: Input[] = [];
  readonly functions = new Map<string, Element>();
  /** Functions whose body is being read, so that none calls itself. */
  readonly calling = new Set<string>();
  slots = 0;

  /** Values that are computed once for each row. */
  once(get: Get): Get {
    const slot = this.slots++;
    return (row) => {
      if (row.stamps[slot] === row.stamp) return at(row.memo, slot);
      const value = get(row);
      row.memo[slot] = value;
      row.stamps[slot] = row.stamp;
      return value;
    };
  }

  /** A field that a model sets while it scores a row: missing until then. */
  settable(
    name: string,
    type: FieldType,
  ): { field: Field; set: (row: Parameters<Get>[0], value: Value) => void } {
    const slot = this.slots++;
    return {
      field: {
        name,
        type,
        get: (row) => (row.stamps[slot] === row.stamp ? at(row.memo, slot) : null),
      },
      set: (row, value) => {
        row.memo[slot] = value;
        row.stamps[slot] = row.stamp;
      },
    };
  }
}

/** The fields that an element can refer to: its own, then those of what it is in. Made when they are first asked for. */
export class Scope {
  private readonly fields = new Map<string, Field | (() => Field)>();
  private readonly making = new Set<string>();

  constructor(
    readonly shared: Shared,
    private readonly outer: Scope | null = null,
  ) {}

  define(name: string, field: Field | (() => Field)): void {
    this.fields.set(name, field);
  }

  find(name: string): Field | null {
    const field = this.fields.get(name);
    if (field === undefined) return this.outer?.find(name) ?? null;
    if (typeof field !== 'function') return field;
    if (this.making.has(name)) return null;
    this.making.add(name);
    const made = field();
    this.making.delete(name);
    this.fields.set(name, made);
    return made;
  }

  /** @throws SieveError `model-file` where there is no such field, or it is derived from itself */
  need(name: string, from: Element): Field {
    const field = this.find(name);
    if (!field)
      throw refused(
        this.making.has(name)
          ? `The field “${name}” is derived from itself.`
          : `<${from.name}> refers to the field “${name}”, which is not defined here.`,
        from.line,
      );
    return field;
  }
}
