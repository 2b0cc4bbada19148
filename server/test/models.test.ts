import { describe, expect, it } from '@jest/globals';
import { fork } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { ModelRules } from '@modest-sieve/core/assessment';
import { readCsv } from '@modest-sieve/core/data';
import type { ModelRequest } from '@modest-sieve/core/model-files';
import { MODEL_LIMITS, ModelProcesses, permissions } from '../src/platform/models/model-process.js';
import { CASES, QUESTION, GOOD, TREE } from './world/model-cases.js';

const rulesOf = (over: Partial<ModelRules> = {}): ModelRules => ({
  task: 'binary',
  labels: ['no', 'yes'],
  positive: 'yes',
  needs: 'labels',
  metric: 'accuracy',
  scheme: QUESTION.scheme,
  takes: 'any',
  link: 'logit',
  columns: [
    { name: 'x', kind: 'number' },
    { name: 'z', kind: 'number' },
  ],
  forbidden: ['id', 'y'],
  examples: [],
  says: '',
  ...over,
});

function requestFor(text: string | Uint8Array, name: string, over: Partial<ModelRequest> = {}): ModelRequest {
  const { table } = readCsv(new TextEncoder().encode(CASES), { file: 'cases.csv' });
  const bytes = typeof text === 'string' ? new TextEncoder().encode(text) : text;
  return { name, bytes, fields: {}, rules: rulesOf(), training: table, heldOut: table, without: 0, ...over };
}

describe('a model in a process of its own', () => {
  const processes = new ModelProcesses();
  const signal = AbortSignal.timeout(120_000);

  it('says what it says elsewhere, of training and of held-out rows', async () => {
    for (const [text, name] of [
      [GOOD, 'model.csv'],
      [TREE, 'tree.pmml'],
    ] as const) {
      const run = await processes.run(requestFor(text, name), signal);
      expect(run.checks.map(({ outcome }) => outcome)).not.toContain('fails');
      expect(run.heldOut?.predictions).toEqual(run.training?.predictions);
    }
  });

  it('runs ONNX, of which the runtime is read from the program’s own folder', async () => {
    const folder = new URL('../../core/test/models/onnx-logistic-cancer/', import.meta.url);
    const { table } = readCsv(readFileSync(new URL('data.csv', folder)), { file: 'data.csv' });
    const columns = table.columns.filter(({ name }) => name !== 'id');
    const run = await processes.run(
      requestFor(readFileSync(new URL('model.onnx', folder)), 'model.onnx', {
        rules: rulesOf({
          labels: ['benign', 'malignant'],
          positive: 'malignant',
          columns: columns.map(({ name, kind }) => ({ name, kind })),
        }),
        training: table,
        heldOut: table,
      }),
      signal,
    );
    expect(run.checks.filter(({ outcome }) => outcome !== 'holds')).toEqual([]);
    const { expected } = JSON.parse(readFileSync(new URL('expected.json', folder), 'utf8')) as {
      expected: { prediction: string[] };
    };
    const said = run.heldOut?.predictions;
    if (said?.kind !== 'labels') throw new Error('no labels');
    expect(Array.from(said.predicted, (code) => ['benign', 'malignant'][code])).toEqual(expected.prediction);
  });

  it.each([
    ['a document type', '<!DOCTYPE x [<!ENTITY a "aaaa">]><PMML>&a;</PMML>', 'model.pmml', /document type/],
    ['nesting', `<PMML>${'<a>'.repeat(60_000)}`, 'model.pmml', /nested/],
    ['no model', 'PK\u0003\u0004', 'model.onnx', /archive/],
    ['weights that are no number', 'term,estimate\nx,NaN\n', 'model.csv', /no number/],
  ])('refuses %s in a sentence', async (_, text, name, says) => {
    const { checks, heldOut } = await processes.run(requestFor(text, name), signal);
    expect(checks).toEqual([expect.objectContaining({ id: 'loads', outcome: 'fails' })]);
    expect(checks[0]?.message).toMatch(says);
    expect(heldOut).toBeNull();
  });

  it('is ended when it takes too long or too much memory, and is refused for it', async () => {
    const slow = requestFor(forest(300_000), 'forest.pmml');
    const timed = await processes.run(slow, signal, { ...MODEL_LIMITS, milliseconds: 50 });
    expect(timed.checks[0]).toMatchObject({ id: 'limits', outcome: 'fails' });
    expect(timed.checks[0]?.message).toContain('ended after 0.05 seconds');
    const large = await processes.run(slow, signal, { ...MODEL_LIMITS, memory: 2 ** 20 });
    expect(large.checks[0]?.message).toContain('more than 1 MiB of memory');
  });

  it('that ends on the held-out rows alone is not refused: it has failed there', async () => {
    const { table } = readCsv(new TextEncoder().encode(CASES), { file: 'cases.csv' });
    const many = {
      rowCount: 600_000,
      columns: table.columns.flatMap((column) =>
        column.kind === 'number'
          ? [
              {
                ...column,
                values: Float64Array.from({ length: 600_000 }, (_, i) => column.values[i % 240] ?? 0),
              },
            ]
          : [],
      ),
    };
    const neighbours = requestFor(forest(400), 'forest.pmml', { heldOut: many });
    const run = await processes.run(neighbours, signal, { ...MODEL_LIMITS, milliseconds: 2500 });
    expect(run.checks.map(({ outcome }) => outcome)).not.toContain('fails');
    expect(run.heldOut).toMatchObject({ predictions: null, problem: 'it was ended after 2.5 seconds' });
  }, 60_000);

  it('stops when the job that waits for it is stopped, and lets the next one run', async () => {
    const stop = new AbortController();
    const running = processes.run(requestFor(forest(300_000), 'forest.pmml'), stop.signal);
    setTimeout(() => stop.abort(new Error('stopped')), 300);
    await expect(running).rejects.toThrow('stopped');
    expect((await processes.run(requestFor(GOOD, 'model.csv'), signal)).report).not.toBeNull();
  });

  it('has no network, no file and no other process', async () => {
    const child = fork(fileURLToPath(new URL('world/sealed-child.mjs', import.meta.url)), [], {
      env: {},
      execArgv: [...permissions(), `--allow-fs-read=${fileURLToPath(new URL('.', import.meta.url))}*`],
    });
    const found = await new Promise((resolve) => child.on('message', resolve));
    child.kill();
    expect(found).toEqual({
      connect: 'a model has no network',
      datagram: 'a model has no network',
      lookup: 'a model has no network',
      fetch: 'ReferenceError',
      file: 'ERR_ACCESS_DENIED',
      project: 'ERR_ACCESS_DENIED',
      process: 'ERR_ACCESS_DENIED',
      thread: 'ERR_ACCESS_DENIED',
    });
  });
});

/** A forest of so many stumps. */
function forest(trees: number): string {
  const tree = TREE.replace(/^[\s\S]*<TreeModel/, '<TreeModel').replace('</PMML>', '');
  const head = TREE.slice(0, TREE.indexOf('<TreeModel'));
  return `${head}<MiningModel functionName="classification"><MiningSchema><MiningField name="x"/><MiningField name="y" usageType="target"/></MiningSchema><Segmentation multipleModelMethod="majorityVote">${`<Segment><True/>${tree}</Segment>`.repeat(trees)}</Segmentation></MiningModel></PMML>`;
}
