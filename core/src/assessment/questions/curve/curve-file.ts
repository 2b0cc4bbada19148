import { check } from '../../../foundation/check.js';
import { nearestName } from '../../files/layout.js';
import { Offences } from '../../files/offences.js';
import { unreadable } from '../../files/predictions.js';
import { eachRecord } from '../../files/record.js';
import { openDelimited } from '../../../data/formats/csv/records.js';
import { at, counted } from '../../../foundation/numbers.js';
import { whatIsWrongWith } from '../../../data/table/cell.js';
import type { Read } from '../contract/answer.js';
import type { CurveRules } from './question.js';

/** Figures by setting, in the order that is asked for. */
export interface CurveFigures {
  readonly training: readonly number[];
  readonly validation: readonly number[];
  /** Standard errors of validation; null where they are not asked for. */
  readonly errors: readonly number[] | null;
}

/** The column of standard errors. */
const ERRORS = 'standard_error';

/** The columns of a table of settings. */
export const columnsOf = ({ setting, needsErrors }: CurveRules): string[] => [
  setting,
  'training',
  'validation',
  ...(needsErrors ? [ERRORS] : []),
];

/** Reads a table of settings: each once, with numbers. */
export function readCurve(bytes: Uint8Array, file: string, rules: CurveRules): Read<CurveFigures> {
  const names = columnsOf(rules);
  try {
    const source = openDelimited(bytes, file);
    const columns = names.map((name) => source.header.indexOf(name));
    const lacking = names.find((_, i) => at(columns, i) < 0);
    if (lacking !== undefined) {
      const message = `Line 1: there is no column “${lacking}”${nearestName(lacking, source.header)}.`;
      const more = { measured: source.header.join(', '), expected: names.join(', ') };
      return { checks: [check('header', 'fails', message, more)], rows: null, content: null };
    }
    const figures = names.slice(1).map(() => new Array<number>(rules.settings.length).fill(NaN));
    const lineOf = new Map<number, number>();
    const faults = new Offences();
    let rows = 0;
    eachRecord(source, (record) => {
      rows++;
      const { line } = record;
      const setting = record.text(at(columns, 0)).trim();
      const place = rules.settings.findIndex(
        (one) => one === setting || (Number(one) === Number(setting) && setting !== ''),
      );
      const fault = (column: number, text: string) => faults.add(line, column + 1, `line ${line}: ${text}`);
      const first = lineOf.get(place);
      if (place < 0)
        fault(at(columns, 0), `${rules.setting} “${setting}” is not among ${rules.settings.join(', ')}`);
      else if (first !== undefined)
        fault(at(columns, 0), `${rules.setting} ${setting} is on line ${first} too`);
      else {
        lineOf.set(place, line);
        names.slice(1).forEach((name, i) => {
          const column = at(columns, i + 1);
          const value = record.number(column);
          const text = record.text(column);
          if (name === ERRORS && value < 0)
            fault(column, `${name} ${text} of ${rules.setting} ${setting} is below 0`);
          else if (Number.isNaN(value))
            fault(column, `${name} “${text}” of ${rules.setting} ${setting} ${whatIsWrongWith(text)}`);
          at(figures, i)[place] = value;
        });
      }
    });
    const missing = rules.settings.filter(
      (_, place) => Number.isNaN(at(figures, 0)[place]) && faults.total === 0,
    );
    const checks = [
      check('header', 'holds', `Header: ${names.join(', ')}`),
      faults.total === 0
        ? check('cells', 'holds', 'Every cell is a number')
        : check('cells', 'fails', 'Some lines are not as asked.', {
            measured: counted(faults.total, 'line'),
            expected: `each ${rules.setting} once, with numbers`,
            examples: faults.examples,
          }),
      missing.length === 0
        ? check('rows', 'holds', `Every ${rules.setting} once`)
        : check('rows', 'fails', `There is no line for ${rules.setting} ${missing.join(', ')}.`, {
            measured: counted(rows, 'line'),
            expected: rules.settings.join(', '),
          }),
    ];
    const holds = faults.total === 0 && missing.length === 0;
    const [training = [], validation = [], errors = null] = figures;
    return { checks, rows, content: holds ? { training, validation, errors } : null };
  } catch (error) {
    return {
      checks: [unreadable(error, `CSV with the columns ${names.join(', ')}`)],
      rows: null,
      content: null,
    };
  }
}
