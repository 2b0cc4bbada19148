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
  const value = (fields[key] ?? '').trim();
  if (choices?.some((choice) => choice.value === value)) return { value };
  const expected = choices?.map(({ text }) => text).join(', ') ?? '';
  const message = value === '' ? `${label}: nothing is chosen.` : `${label}: “${value}” cannot be chosen.`;
  return { failed: check(`field ${key}`, 'fails', message, { expected }) };
}

/** What is wrong with the fields of a question, before anything is sent; none where all can be taken. */
export function checkFields(fields: readonly Field[], given: Given): Check[] {
  return fields.flatMap((field) => {
    const read = field.choices === null ? typedField(field, given) : chosenField(field, given);
    return 'failed' in read ? [read.failed] : [];
  });
}
