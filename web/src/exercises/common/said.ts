import type { Schemas } from '../../api/client.js';

/** What was typed or chosen, in the words of the sheet. */
export const saidIn = (
  sheet: Pick<Schemas['QuestionSheet'], 'fields'>,
  fields: Readonly<Record<string, string>>,
): { readonly label: string; readonly text: string }[] =>
  sheet.fields.flatMap(({ key, label, choices }) => {
    const value = fields[key];
    if (value === undefined) return [];
    return [{ label, text: choices?.find((choice) => choice.value === value)?.text ?? value }];
  });
