import { check, type Check } from '../../foundation/check.js';
import type { AnswerKey } from '../files/judge.js';
import { areaOf, rankingOf } from '../../metrics/curves/ranking.js';
import { at, counted } from '../../foundation/numbers.js';
import { copies } from '../releases/copies.js';
import { labelsOf } from '../../data/table/labels.js';
import type { Roles } from '../../data/table/roles.js';
import { cellText, type Column, type Table } from '../../data/table/table.js';

/** What a pack must not reveal: the target itself, an order or an identifier that follows it. */
export function auditPack(heldout: Table, roles: Roles, key: AnswerKey): Check[] {
  const names = heldout.columns.map((column) => column.name);
  const kept = [roles.target, ...roles.withheld].filter((name) => names.includes(name));
  const checks = [
    kept.length === 0
      ? check('no-target', 'holds', 'Neither the target nor a withheld column is among the held-out features')
      : check('no-target', 'fails', `${kept.join(', ')} would be handed out`),
  ];
  const target = targetOf(heldout.rowCount, key);
  const same = Array.from({ length: heldout.rowCount }, (_, row) => [row, row] as const);
  const found = heldout.columns.slice(1).filter((column) => copies(target, column, same));
  checks.push(
    found.length === 0
      ? check('no-copy', 'holds', 'No feature is the target under another name, in another unit or rounded')
      : check(
          'no-copy',
          'fails',
          `${found.map((c) => c.name).join(', ')} gives the target of nearly every held-out row; withhold it at Look`,
        ),
  );
  const position = Float64Array.from({ length: heldout.rowCount }, (_, i) => i);
  checks.push(orderCheck('order', 'The order of the held-out rows', position, key));
  const ids = Float64Array.from(position, (_, i) => Number(cellText(at(heldout.columns, 0), i)));
  const numeric = ids.every((id) => !Number.isNaN(id));
  checks.push(
    orderCheck('identifiers', 'The order of the identifiers', numeric ? ids : textRanks(heldout), key),
  );
  return checks;
}

/** The answers of a key as a column. */
function targetOf(rowCount: number, { classes, values, labels }: AnswerKey): Column {
  return classes
    ? { kind: 'category', name: 'target', levels: labels, codes: classes }
    : { kind: 'number', name: 'target', values: values ?? new Float64Array(rowCount) };
}

function textRanks(heldout: Table): Float64Array {
  const { labels, codes } = labelsOf(at(heldout.columns, 0));
  return Float64Array.from(codes, (code) => (labels.length > 0 ? code : 0));
}

/** Four standard errors of the area under no relation (Hanley and McNeil): chance alone exceeds it once in 16,000. */
const TELLING_STEPS = 4;

/** Whether an order of rows reveals the target: the area of each class, or of above-median values, along the order. */
function orderCheck(id: string, what: string, order: Float64Array, key: AnswerKey): Check {
  const { classes, values } = key;
  const sorted = values?.slice().sort();
  const middle = sorted ? at(sorted, Math.floor(sorted.length / 2)) : 0;
  const codes = classes ?? Int32Array.from(values ?? order, (value) => (value >= middle ? 0 : 1));
  let worst = { steps: 0, area: 0.5 };
  for (let code = 0; code < Math.max(1, key.labels.length); code++) {
    const area = areaOf(rankingOf(order, codes, code, null));
    const n = codes.filter((other) => other === code).length;
    const se = Math.sqrt((order.length + 1) / (12 * n * (order.length - n)));
    const steps = Math.abs(area - 0.5) / se;
    if (Number.isFinite(steps) && steps > worst.steps) worst = { steps, area };
  }
  const measured = `area ${Math.max(worst.area, 1 - worst.area).toFixed(2)} in ${counted(order.length, 'row')}`;
  return worst.steps < TELLING_STEPS
    ? check(id, 'holds', `${what} goes with the target no more than chance does`, { measured })
    : check(id, 'unsure', `${what} goes with the target`, { measured, expected: 'about 0.50' });
}
