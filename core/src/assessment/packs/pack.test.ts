import { describe, expect, it } from '@jest/globals';
import { strFromU8, unzipSync } from 'fflate';
import { diabetes, iris, tableOf } from '../../../test/files.js';
import { secretOf } from '../../../test/secrets.js';
import { fit } from '../../../test/models.js';
import { draw, IRIS_ROLES } from '../../../test/plans.js';
import { allHold } from '../../foundation/check.js';
import { checkPredictions } from '../files/predictions.js';
import { predictRows } from '../../models/fitted.js';
import { rowsOfPart } from '../../splitting/parts/parts.js';
import { splitRows } from '../../splitting/splits/split.js';
import type { Roles } from '../../data/table/roles.js';
import { heldOutOf } from '../material/held-out.js';
import { makePack, withBrief } from './pack.js';
import { shares, plan, irisRoles, judgedBy, request, keyOf, rulesOf, filesOf } from './pack-of-tests.js';

describe('a pack', () => {
  const pack = makePack(request(iris(), irisRoles));
  const files = filesOf(pack.zip);

  it('says how far a reference run is from its figure on the rows that decide', () => {
    const table = iris();
    const { parts } = splitRows(table, plan);
    const fitted = fit(
      table,
      'target',
      'multiclass',
      'tree',
      { depth: 2 },
      { features: ['sepal_length'], rows: rowsOfPart(parts, 0) },
    );
    const made = makePack(request(table, irisRoles, { references: [fitted] }));
    const key = keyOf(made);
    const held = rulesOf(made).identifiers.map((_, i) => i);
    const { rows } = heldOutOf({ ...request(table, irisRoles), division: made.division });
    const shares = predictRows(fitted, table, rows);
    const right = held.map((i) => {
      const surest = shares.reduce((best, of, c) => ((of[i] ?? 0) > (shares[best]?.[i] ?? 0) ? c : best), 0);
      return key.labels[key.classes?.[i] ?? -1] === fitted.labels[surest];
    });
    const accuracy = (of: readonly number[]) =>
      Number((of.filter((i) => right[i]).length / of.length).toPrecision(4));
    expect(made.keys['q1']?.about.join('\n')).toContain(
      `the reference run of a decision tree has accuracy ${accuracy(held)} on all held-out rows and ${accuracy(held.filter((i) => key.feedback[i] === 0))} on the final rows, which decide: an answer as good gets `,
    );
    expect(pack.keys['q1']?.about.join()).not.toContain('reference run');
  });

  it('holds training and validation rows with the target, held-out rows without, an example and the brief', () => {
    expect(Object.keys(files)).toEqual([
      'training.csv',
      'validation.csv',
      'held-out.csv',
      'example.csv',
      'starter-python.ipynb',
      'starter-r.ipynb',
      'starter.py',
      'brief.md',
    ]);
    expect(pack.files.map((file) => file.shape)).toEqual([
      [90, 4],
      [15, 4],
      [45, 4],
      [45, 2],
      null,
      null,
      null,
      null,
    ]);
    expect(files['training.csv']?.split('\n')[0]).toBe('sepal_length,sepal_width,petal_length,target');
    expect(files['held-out.csv']?.split('\n')[0]).toBe('row,sepal_length,sepal_width,petal_length');
  });

  it('never holds a target or a withheld column of a held-out row', () => {
    for (const species of ['setosa', 'versicolor', 'virginica', 'petal_width'])
      expect(files['held-out.csv']).not.toContain(species);
  });

  it('is the same bytes for the same inputs, and another order for another secret', () => {
    expect(makePack(request(iris(), irisRoles)).zip).toEqual(pack.zip);
    expect(
      filesOf(makePack(request(iris(), irisRoles, { secret: secretOf(78) })).zip)['held-out.csv'],
    ).not.toBe(files['held-out.csv']);
  });

  it('has its brief amended, and nothing else', () => {
    const made = makePack(request(iris(), irisRoles));
    const head = { title: 'Seeds', brief: 'Name each seed.\n', conditions: ['Due tomorrow.'] };
    const amended = withBrief(made, head, made.questions);
    const { 'brief.md': text = '', ...others } = filesOf(amended.zip);
    expect(text).toMatch(/^# Seeds\n\nDue tomorrow\.\n\nName each seed\.\n\n## Questions\n/);
    expect({ ...others, 'brief.md': filesOf(made.zip)['brief.md'] }).toEqual(filesOf(made.zip));
    expect(amended.files.find(({ name }) => name === 'brief.md')?.bytes).toBe(Buffer.byteLength(text));
    expect(amended.files.length).toBe(made.files.length);
    expect(withBrief(amended, request(iris(), irisRoles), made.questions)).toEqual({
      zip: made.zip,
      files: made.files,
    });
  });

  it('orders held-out rows independently of the file’s order', () => {
    // Iris is sorted by species: in file order the key would be sorted too.
    const classes = Array.from(keyOf(pack).classes ?? []);
    expect(classes).not.toEqual([...classes].sort());
    expect(pack.audit.find((c) => c.id === 'order')?.outcome).toBe('holds');
  });

  it('has an example that passes every file check and knows nothing', () => {
    for (const [table, roles, metric] of [
      [iris(), irisRoles, 'accuracy'],
      [iris(), irisRoles, 'log_loss'],
      [diabetes(), { ...irisRoles, task: 'regression', withheld: [] } as Roles, 'rmse'],
    ] as const) {
      const made = makePack(request(table, roles, { questions: [judgedBy(metric)] }));
      const example = unzipSync(made.zip)['example.csv'] ?? new Uint8Array();
      expect(allHold(checkPredictions(example, 'example.csv', rulesOf(made)).checks)).toBe(true);
      expect(
        new Set(
          strFromU8(example)
            .trim()
            .split('\n')
            .slice(1)
            .map((line) => line.split(',').slice(1).join()),
        ).size,
      ).toBe(1);
    }
  });

  it('keys answer the rows in the order of the pack', () => {
    const lines = (files['held-out.csv'] ?? '')
      .trim()
      .split('\n')
      .slice(1)
      .map((line) => line.split(',').slice(1).join());
    const table = iris();
    const species = new Map<string, Set<number>>();
    for (const row of rowsOfPart(splitRows(table, plan).parts, 2)) {
      const features = table.columns
        .slice(0, 3)
        .map((c) => (c.kind === 'number' ? String(c.values[row]) : ''))
        .join();
      species.set(features, (species.get(features) ?? new Set()).add(Math.floor(row / 50)));
    }
    lines.forEach((line, i) => expect(species.get(line)).toContain(keyOf(pack).classes?.[i]));
  });
});

describe('feedback rows', () => {
  it('are drawn in the way of the split: half of each class', () => {
    const stratified = draw({ shares, seed: 4, stratify: 'target' });
    const table = iris();
    const key = keyOf(
      makePack(
        request(table, irisRoles, {
          plan: stratified,
          parts: splitRows(table, stratified).parts,
        }),
      ),
    );
    for (let c = 0; c < 3; c++) {
      const members = Array.from(key.classes ?? []).flatMap((code, i) =>
        code === c ? [key.feedback[i]] : [],
      );
      expect(Math.abs(members.filter((f) => f === 1).length - members.length / 2)).toBeLessThan(1);
    }
  });

  it('keep whole groups together', () => {
    const rows = Array.from({ length: 120 }, (_, i) => `${i},g${i % 12},${(i * 7) % 5 < 2 ? 'p' : 'q'}`);
    const table = tableOf(`id,group,y\n${rows.join('\n')}\n`);
    const grouped = draw({ shares, seed: 4, group: 'group' });
    const roles: Roles = {
      target: 'y',
      task: 'binary',
      positive: 'p',
      identifier: 'id',
      group: 'group',
      time: null,
      weight: null,
      withheld: [],
    };
    const key = keyOf(
      makePack(request(table, roles, { plan: grouped, parts: splitRows(table, grouped).parts })),
    );
    const sides = new Map<number, Set<number>>();
    key.groups?.forEach((g, i) => sides.set(g, (sides.get(g) ?? new Set()).add(key.feedback[i] ?? -1)));
    expect(sides.size).toBeGreaterThan(1);
    for (const side of sides.values()) expect(side.size).toBe(1);
  });
});

describe('groups behind the interval of a score', () => {
  const rows = Array.from(
    { length: 120 },
    (_, i) => `${i},${i % 12 === 7 ? '' : `g${i % 12}`},${(i * 7) % 5 < 2 ? 'p' : 'q'}`,
  );
  const table = tableOf(`id,group,y\n${rows.join('\n')}\n`);
  const roles: Roles = {
    ...IRIS_ROLES,
    target: 'y',
    task: 'binary',
    positive: 'p',
    identifier: 'id',
    group: 'group',
  };
  const groupsBy = (plan: ReturnType<typeof draw>) =>
    keyOf(makePack(request(table, roles, { plan, parts: splitRows(table, plan).parts }))).groups;

  it('are those of the role where a plan has no say in them; a row without one stands for itself', () => {
    const groups = groupsBy({ kind: 'first', values: { sized: 'rows', validationRows: 0, heldoutRows: 60 } });
    // Five rows of each of eleven groups, and five that belong to none.
    expect(new Set(groups).size).toBe(11 + 5);
  });

  it('are none where a plan that could keep them whole does not', () => {
    expect(groupsBy(draw())).toBeNull();
  });
});
