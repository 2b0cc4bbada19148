// Models that are made to do harm, handed in beside files of predictions: what becomes of each, and of the others.
import { TextEncoder } from 'node:util';
import { GraphBuilder } from '../../core/dist/assessment/model-files/onnx/graph-builder.js';
import { TensorProto_DataType } from '../../core/dist/assessment/model-files/onnx/schema.js';
import { fileOf, joined, MODEL, releasedExercise } from './people.mjs';
import { startProcess } from './program.mjs';

const { DOUBLE } = TensorProto_DataType;
const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));
const encoded = (text) => new TextEncoder().encode(text);

/** A graph with one column as its input, and what `make` adds to it, which gives the name of its output. */
function graph(make, inputs = ['x']) {
  const builder = new GraphBuilder();
  for (const name of inputs) builder.input(name, DOUBLE);
  builder.output(make(builder), DOUBLE, 1);
  return builder.bytes();
}

const pmml = (model) =>
  encoded(
    `<PMML version="4.4" xmlns="http://www.dmg.org/PMML-4_4"><DataDictionary><DataField name="x" optype="continuous" dataType="double"/><DataField name="y" optype="categorical" dataType="string"/></DataDictionary>${model}</PMML>`,
  );
const SCHEMA =
  '<MiningSchema><MiningField name="x"/><MiningField name="y" usageType="target"/></MiningSchema>';
const tree = (nodes) =>
  `<TreeModel functionName="classification">${SCHEMA}<Node score="no"><True/>${nodes}</Node></TreeModel>`;
const LEAF = '<Node score="yes"><SimplePredicate field="x" operator="greaterThan" value="0"/></Node>';

/** Whatever is made to do harm, by what it is; `size` makes all of them smaller. */
function hostileModels(size) {
  const many = (n) => Math.max(1, Math.round(n * size));
  const neighbours = (n) =>
    `<NearestNeighborModel functionName="classification" numberOfNeighbors="3" categoricalScoringMethod="majorityVote"><MiningSchema><MiningField name="x"/><MiningField name="y" usageType="target"/></MiningSchema><TrainingInstances><InstanceFields><InstanceField field="x" column="x"/><InstanceField field="y" column="y"/></InstanceFields><InlineTable>${Array.from({ length: n }, (_, i) => `<row><x>${i}</x><y>${i % 2 ? 'yes' : 'no'}</y></row>`).join('')}</InlineTable></TrainingInstances><ComparisonMeasure kind="distance"><euclidean/></ComparisonMeasure><KNNInputs><KNNInput field="x"/></KNNInputs></NearestNeighborModel>`;
  const whole = graph((g) => g.add('Identity', ['x']));
  return [
    ['a loop', 'loop.onnx', graph((g) => g.add('Loop', ['x', 'x']))],
    ['a tensor of terabytes', 'tensor.onnx', graph((g) => g.add('MatMul', ['x', g.tensor([1], [1e6, 1e6])]))],
    [
      'memory that grows while it runs',
      'growing.onnx',
      graph((g) => {
        let last = 'x';
        for (let i = 0; i < 40; i++) last = g.add('Concat', [last, last], { axis: 1 });
        return g.add('ReduceMax', [last], { axes: [1], keepdims: 1 });
      }),
    ],
    ['weights that are no number', 'nan.onnx', graph((g) => g.add('Mul', ['x', g.tensor([NaN], [1])]))],
    [
      'a shape that fits nothing',
      'shape.onnx',
      graph((g) => g.add('MatMul', ['x', g.tensor([1, 2, 3], [3, 1])])),
    ],
    ['an operator that there is not', 'operator.onnx', graph((g) => g.add('Telephone', ['x']))],
    [
      'ten thousand inputs',
      'inputs.onnx',
      graph(
        (g) => g.add('Identity', ['c0']),
        Array.from({ length: many(10_000) }, (_, i) => `c${i}`),
      ),
    ],
    ['a file that is cut off', 'cut.onnx', whole.subarray(0, whole.length >> 1)],
    ['a zip by another name', 'zip.onnx', encoded('PK\u0003\u0004 what was a folder')],
    [
      'a tree of a million nodes',
      'wide.pmml',
      pmml(tree('<Node score="yes"><True/></Node>'.repeat(many(1_000_000)))),
    ],
    ['60,000 nested nodes', 'deep.pmml', pmml(tree(`${LEAF.replace('</Node>', '')}`.repeat(60_000)))],
    [
      'entities of entities',
      'entities.pmml',
      encoded(
        `<!DOCTYPE a [<!ENTITY b "${'x'.repeat(1000)}"><!ENTITY c "${'&b;'.repeat(1000)}">]><PMML>&c;</PMML>`,
      ),
    ],
    [
      'an entity in another file',
      'outside.pmml',
      encoded('<!DOCTYPE a [<!ENTITY b SYSTEM "file:///etc/passwd">]><PMML>&b;</PMML>'),
    ],
    ['neighbours without end', 'neighbours.pmml', pmml(neighbours(many(400_000)))],
    [
      'a forest of 200,000 trees',
      'forest.pmml',
      pmml(
        `<MiningModel functionName="classification">${SCHEMA}<Segmentation multipleModelMethod="majorityVote">${`<Segment><True/>${tree(LEAF)}</Segment>`.repeat(many(200_000))}</Segmentation></MiningModel>`,
      ),
    ],
    ['coefficients that are no number', 'nan.csv', encoded('term,estimate\nx,NaN\n')],
    [
      'more terms than are read',
      'terms.csv',
      encoded(`term,estimate\n${Array.from({ length: 20_000 }, (_, i) => `x^${i},1`).join('\n')}\n`),
    ],
    ['the target as an input', 'target.csv', encoded('term,estimate\ny=yes,1\n')],
  ];
}

/** Seconds from handing in to the receipt, and the receipt. */
async function receiptOf(student, path, question, name, bytes, key) {
  const start = performance.now();
  let { status, body } = await student.upload(
    `${path}/submissions?question=${question}&wait=60`,
    name,
    bytes,
    {
      'idempotency-key': key,
    },
  );
  while (status === 202 || body.outcome === 'waiting') {
    ({ status, body } = await student.call('GET', `${path}/receipts/${body.id}?wait=30`));
    if (body.outcome === 'waiting') await pause(300);
  }
  return { seconds: (performance.now() - start) / 1000, body };
}

/**
 * Each of the models, from a student of its own, and files of predictions of others, once alone and once beside them.
 *
 * @param size of the models, 1 for full size
 * @param most models that are handed in
 */
export async function hostileRun(database, { rows = 5000, files = 50, size = 1, most = Infinity } = {}) {
  const [web, worker] = [await startProcess(database, 'web'), await startProcess(database, 'worker')];
  const at = await releasedExercise(web.address, 'hostile', rows, [MODEL]);
  const students = [];
  for (let i = 1; i <= files; i++) students.push(await joined(web.address, at, 'hostile', i));
  const all = async (key) => {
    const waits = await Promise.all(
      students.map(async (student, i) => {
        await pause(i * 200);
        const file = fileOf(at.identifiers, i % 10);
        return (await receiptOf(student, at.path, 'q1', 'mine.csv', file, key)).seconds;
      }),
    );
    return Math.max(...waits);
  };
  const alone = await all('alone');
  const models = hostileModels(size).slice(0, most);
  const senders = [];
  for (let i = 0; i < models.length; i++)
    senders.push(await joined(web.address, at, 'hostile', files + 1 + i));
  const beside = all('beside');
  const found = await Promise.all(
    models.map(async ([what, name, bytes], i) => {
      const { seconds, body } = await receiptOf(senders[i], at.path, 'q2', name, bytes, 'one');
      const checks = body.disclosed?.checks ?? [];
      const says =
        checks.find(({ outcome }) => outcome === 'fails')?.message ?? body.problem ?? body.title ?? '';
      return { what, outcome: body.outcome ?? body.code ?? 'refused', seconds, says };
    }),
  );
  const slowest = await beside;
  await Promise.all([web.kill('SIGTERM'), worker.kill('SIGTERM')]);
  return { alone, slowest, found, files };
}
