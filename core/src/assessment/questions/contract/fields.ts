import { check, type Check } from '../../../foundation/check.js';
import { typedNumber, type Typed } from '../../generators/typed.js';
import type { Field } from './answer.js';

type Given = Readonly<Record<string, string>>;

/** A number that was typed into a field, or the check that it fails. */
export function typedField(
  { key, label }: Field,
  fields: Given,
): { readonly typed: Typed } | { readonly failed: Check } {
  const text = (fields[key] ?? '').trim();
  const typed = typedNumber(text);
  if (!('wrong' in typed)) return { typed };
  const message = text === '' ? `${label} is missing.` : `${label}: “${text}” ${typed.wrong}.`;
  return {
    failed: check(`field ${key}`, 'fails', message, { expected: 'a number such as 0.813 or 81.3 %' }),
  };
}

/** What was chosen in a field, or the check that it fails. */
export function chosenField(
  { key, label, choices }: Field,
  fields: Given,
): { readonly value: string } | { readonly failed: Check } {
  const given = fields[key] ?? '';
  const value = given.trim();
  // Values of a table may begin or end with blanks, which a file of answers loses.
  const found =
    choices?.find((choice) => choice.value === given) ??
    choices?.find((choice) => choice.value.trim() === value);
  if (found) return { value: found.value };
  const expected = choices?.map(({ text }) => text).join(', ') ?? '';
  const message = value === '' ? `${label}: nothing is chosen.` : `${label}: “${value}” cannot be chosen.`;
  return { failed: check(`field ${key}`, 'fails', message, { expected }) };
}

/** What stands between several values that are chosen in one field. */
export const BETWEEN_VALUES = ';';
/** The value of the choice that none of the others is right. */
export const NONE = '(none)';

/** What was chosen in a field that takes several, or the check that it fails. */
export function chosenValues(
  { key, label, choices }: Field,
  fields: Given,
): { readonly values: readonly string[] } | { readonly failed: Check } {
  const values = (fields[key] ?? '')
    .split(BETWEEN_VALUES)
    .map((value) => value.trim())
    .filter((value) => value !== '');
  const stray = values.find((value) => !choices?.some((choice) => choice.value === value));
  const expected = choices?.map(({ text }) => text).join(', ') ?? '';
  const fail = (what: string) => ({
    failed: check(`field ${key}`, 'fails', `${label}: ${what}.`, { expected }),
  });
  if (stray !== undefined) return fail(`“${stray}” cannot be chosen`);
  if (values.length === 0) return fail('nothing is chosen');
  if (values.includes(NONE) && values.length > 1) return fail('none of them is chosen, and others too');
  return { values: [...new Set(values)].filter((value) => value !== NONE) };
}

/** What is wrong with the fields of a question, before anything is sent; none where all can be taken. */
export function checkFields(fields: readonly Field[], given: Given): Check[] {
  return fields.flatMap((field) => {
    const read =
      field.choices === null
        ? typedField(field, given)
        : field.several
          ? chosenValues(field, given)
          : chosenField(field, given);
    return 'failed' in read ? [read.failed] : [];
  });
}
