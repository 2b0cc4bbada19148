import { check, type Check } from '../../../foundation/check.js';
import { Offences } from '../../files/offences.js';
import { unreadable } from '../../files/predictions.js';
import { eachRecord } from '../../files/record.js';
import { openDelimited } from '../../../data/formats/csv/records.js';
import { counted } from '../../../foundation/numbers.js';
import type { Answer } from '../contract/answer.js';

/** The columns of a file of values. */
export const FIGURE = 'figure';
export const VALUE = 'value';

/** The values of a file of figure and value, as if they had been typed. */
export function valuesIn(
  { name, bytes }: NonNullable<Answer['file']>,
  asked: readonly { key: string; name: string }[],
): { fields: Record<string, string>; checks: Check[] } {
  const expected = `CSV with the columns ${FIGURE}, ${VALUE}`;
  try {
    const source = openDelimited(bytes, name);
    const [figure = -1, value = -1] = [FIGURE, VALUE].map((column) => source.header.indexOf(column));
    if (figure < 0 || value < 0)
      return {
        fields: {},
        checks: [
          check('header', 'fails', `Line 1: the columns are not ${FIGURE} and ${VALUE}.`, {
            measured: source.header.join(', '),
            expected,
          }),
        ],
      };
    const fields: Record<string, string> = {};
    const faults = new Offences();
    eachRecord(source, (record) => {
      const { line } = record;
      const text = record.text(figure).trim();
      const one = asked.find(({ key, name: title }) => key === text || title === text);
      if (!one) faults.add(line, figure + 1, `line ${line}: “${text}” is not asked for`);
      else if (one.key in fields) faults.add(line, figure + 1, `line ${line}: ${text} is there twice`);
      else fields[one.key] = record.text(value);
    });
    const checks =
      faults.total === 0
        ? [check('header', 'holds', `Header: ${FIGURE}, ${VALUE}`)]
        : [
            check('figures', 'fails', 'Some lines name a figure that is not asked for, or one twice.', {
              measured: counted(faults.total, 'line'),
              expected: asked.map(({ key }) => key).join(', '),
              examples: faults.examples,
            }),
          ];
    return { fields, checks };
  } catch (error) {
    return { fields: {}, checks: [unreadable(error, expected)] };
  }
}
