import { describe, expect, it } from '@jest/globals';
import { strFromU8, unzipSync } from 'fflate';
import { diabetes, iris, tableOf } from '../../../test/files.js';
import { secretOf } from '../../../test/secrets.js';
import { fit } from '../../../test/models.js';
import { draw, IRIS_ROLES } from '../../../test/plans.js';
import { allHold } from '../../foundation/check.js';
import { checkPredictions } from '../files/predictions.js';
import { metricNamed } from '../../metrics/registry.js';
import { predictRows } from '../../models/fitted.js';
import { seededRandom } from '../../foundation/random/random.js';
import { rowsOfPart } from '../../splitting/parts/parts.js';
import { splitRows } from '../../splitting/splits/split.js';
import type { Roles } from '../../data/table/roles.js';
import type { Table } from '../../data/table/table.js';
import { heldOutOf } from '../material/held-out.js';
import { makePack, refusalOf, withBrief, type Pack, type PackRequest } from './pack.js';
import type { AnswerKey } from '../files/judge.js';
import type { PredictionRules } from '../files/rules.js';
import { firstScheme } from '../marking/scheme.js';
import type { PredictionsQuestion } from '../questions/predictions/question.js';

const shares = { training: 60, validation: 10, heldout: 30 };
const plan = draw({ shares, seed: 4 });
const irisRoles: Roles = { ...IRIS_ROLES, withheld: ['petal_width'] };
/** A question of predictions that is judged by a metric. */
const judgedBy = (metric: string): PredictionsQuestion => ({
  id: 'q1',
  kind: 'predictions',
  title: 'Predict',
  text: '',
  metric,
  scheme: firstScheme(metricNamed(metric), 0.1),
});
const request = (table: Table, roles: Roles, over: Partial<PackRequest> = {}): PackRequest => ({
  table,
  roles,
  plan,
  parts: splitRows(table, plan).parts,
  folds: null,
  curves: {},
  references: [],
  descriptions: {},
  questions: [judgedBy(roles.task === 'regression' ? 'rmse' : 'accuracy')],
  title: 'Grains',
  brief: 'Name each grain.',
  conditions: [],
  reissued: false,
  reserve: new Uint8Array(table.rowCount),
  earlier: [],
  secret: secretOf(77),
  ...over,
});
/** The key of the predictions question of a pack. */
function keyOf({ keys }: Pack): AnswerKey {
  const key = keys['q1']?.key;
  if (!key || !('feedback' in key)) throw new Error('no key');
  return key;
}
function rulesOf({ questions: [first] }: Pack): PredictionRules {
  if (!first || !('needs' in first.rules && 'identifiers' in first.rules)) throw new Error('no rules');
  return first.rules;
}
const filesOf = (zip: Uint8Array) =>
  Object.fromEntries(Object.entries(unzipSync(zip)).map(([name, bytes]) => [name, strFromU8(bytes)]));

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

describe('random identifiers', () => {
  const table = tableOf(
    `id,x,y\n${Array.from({ length: 60 }, (_, i) => `hive ${i},${(i * 7) % 13},${(i * 7) % 5 < 2 ? 'p' : 'q'}`).join('\n')}\n`,
  );
  const roles: Roles = { ...IRIS_ROLES, target: 'y', task: 'binary', positive: 'p', identifier: 'id' };

  it('stand in every file in place of the rows’ own, each once, and the keys still fit', () => {
    const made = makePack(request(table, roles, { reissued: true }));
    const files = filesOf(made.zip);
    const idsIn = (name: string) =>
      (files[name] ?? '')
        .trim()
        .split('\n')
        .slice(1)
        .map((line) => line.split(',')[0] ?? '');
    const all = ['training.csv', 'validation.csv', 'held-out.csv'].flatMap(idsIn);
    expect(all.sort()).toEqual(Array.from({ length: 60 }, (_, i) => String(i + 1).padStart(2, '0')));
    expect(JSON.stringify(files)).not.toContain('hive ');
    const own = keyOf(makePack(request(table, roles)));
    expect(keyOf(made).classes).toEqual(own.classes);
    expect(idsIn('held-out.csv')).toEqual(rulesOf(made).identifiers);
  });

  it('are others for another secret, and change nothing where rows have none', () => {
    const ids = (number: number) =>
      rulesOf(makePack(request(table, roles, { reissued: true, secret: secretOf(number) })))
        .identifiers.slice()
        .sort();
    expect(ids(1)).not.toEqual(ids(2));
    expect(makePack(request(iris(), irisRoles, { reissued: true })).zip).toEqual(
      makePack(request(iris(), irisRoles)).zip,
    );
  });
});

describe('the audit', () => {
  const random = seededRandom(3);
  const rows = Array.from({ length: 200 }, (_, i) => {
    const y = random.below(2) ? 'yes' : 'no';
    return {
      y,
      copy: y === 'yes' ? 'a' : 'b',
      sorted: `${y === 'yes' ? 'A' : 'B'}${String(i).padStart(3, '0')}`,
    };
  });
  const roles: Roles = {
    target: 'y',
    task: 'binary',
    positive: 'yes',
    identifier: 'id',
    group: null,
    time: null,
    weight: null,
    withheld: [],
  };

  it('refuses a pack in which a feature gives every answer', () => {
    const table = tableOf(`id,copy,y\n${rows.map((r, i) => `i${i},${r.copy},${r.y}`).join('\n')}\n`);
    expect(refusalOf(makePack(request(table, roles)).audit, 'because')?.message).toBe(
      'The pack is not released: copy gives the target of nearly every held-out row; withhold it at Look.',
    );
    expect(refusalOf(makePack(request(table, { ...roles, withheld: ['copy'] })).audit, '')).toBeNull();
  });

  describe('of a series whose target is what is measured next', () => {
    const random = seededRandom(12);
    const readings = Array.from({ length: 2 }, () => {
      let weight = 20;
      return Array.from({ length: 121 }, () => (weight += random.unit() - 0.5).toFixed(2));
    });
    const lines = readings.flatMap((scale, hive) =>
      scale
        .slice(0, -1)
        .map((weight, day) => `h${hive}d${day},h${hive},${day},${weight},${scale[day + 1] ?? ''}`),
    );
    const table = tableOf(`id,hive,day,weight,tomorrow\n${lines.join('\n')}\n`);
    const series: Roles = {
      ...roles,
      target: 'tomorrow',
      task: 'regression',
      positive: null,
      group: 'hive',
      time: 'day',
    };
    const by = (kind: string, values: Record<string, string | number>) => {
      const own = { kind, values: { sized: 'percent', training: 60, validation: 0, heldout: 40, ...values } };
      return request(table, series, { plan: own, parts: splitRows(table, own).parts });
    };

    it('refuses held-out rows that follow one another, and names the feature and how much later it tells', () => {
      expect(refusalOf(makePack(by('time', { time: 'day', gap: 0 })).audit, '')?.message).toMatch(
        /The pack is not released: Rows that follow or precede a row give tomorrow as good as exactly \(weight 1 rows later\)/,
      );
    });

    it('refuses rows held out at random too, whose answers stand among the training rows', () => {
      const drawn = {
        kind: 'draw',
        values: {
          sized: 'percent',
          training: 60,
          validation: 0,
          heldout: 40,
          stratify: '',
          group: '',
          seed: 1,
        },
      };
      const asked = request(table, series, { plan: drawn, parts: splitRows(table, drawn).parts });
      expect(refusalOf(makePack(asked).audit, '')?.message).toContain('weight 1 rows later');
    });

    it('takes them where the telling feature is withheld', () => {
      const asked = by('time', { time: 'day', gap: 0 });
      const made = makePack({ ...asked, roles: { ...series, withheld: ['weight'] } });
      expect(made.audit.filter(({ outcome }) => outcome === 'fails')).toEqual([]);
    });
  });

  it('notices identifiers whose order goes with the target', () => {
    const table = tableOf(`id,x,y\n${rows.map((r, i) => `${r.sorted},${i % 7},${r.y}`).join('\n')}\n`);
    expect(makePack(request(table, roles)).audit.find((c) => c.id === 'identifiers')).toMatchObject({
      outcome: 'unsure',
      measured: expect.stringContaining('area 1.00'),
    });
  });
});
