import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { COLONIES, Folder } from './sieve.js';

const model = (path: string) => fileURLToPath(new URL(`../../core/test/models/${path}`, import.meta.url));

describe('sieve predict', () => {
  it.each(['onnx-logistic-cancer/model.onnx', 'pmml-logistic-cancer/model.pmml'])(
    'writes identifiers, labels and probabilities of %s as CSV',
    (path) => {
      const folder = model(path).replace(/[^/]+$/, '');
      const { code, out } = new Folder().run([
        'predict',
        '--model',
        model(path),
        '--data',
        `${folder}data.csv`,
        '--id',
        'id',
      ]);
      expect(code).toBe(0);
      const [header, first] = out.split('\n');
      expect(header).toBe('id,prediction,p:benign,p:malignant');
      const { expected } = JSON.parse(readFileSync(`${folder}expected.json`, 'utf8')) as {
        expected: { prediction: string[]; p: Record<string, number[]> };
      };
      const [id, prediction, benign] = first?.split(',') ?? [];
      expect([id, prediction]).toEqual(['m0000', expected.prediction[0]]);
      expect(Number(benign)).toBeCloseTo(expected.p['benign']?.[0] ?? NaN, 4);
    },
  );

  it.each(['json', 'pmml', 'onnx'])(
    'reads what sieve fit saves as %s, and counts rows where none is named',
    (ending) => {
      const folder = new Folder();
      folder.write('colonies.csv', COLONIES);
      const fitted = ['fit', 'colonies.csv', '--target', 'outcome', '--model', 'tree', '--seed', '1'];
      const features = ['--features', 'day,mites', '--save', `model.${ending}`];
      expect(folder.run([...fitted, ...features])).toMatchObject({ code: 0 });
      const predict = ['predict', '--model', `model.${ending}`, '--data', 'colonies.csv'];
      const { model: read, predictions } = folder.json(predict);
      expect(read).toMatchObject({ format: ending === 'json' ? 'fitted' : ending });
      const rows = predictions as { id: string; prediction: string; p: Record<string, number> }[];
      expect(rows[0]?.id).toBe('0');
      // The tree knows its training rows by heart.
      const outcomes = COLONIES.trimEnd()
        .split('\n')
        .slice(1)
        .map((line) => line.split(',')[4]);
      expect(rows.map(({ prediction }) => prediction)).toEqual(outcomes);
    },
  );

  it('takes the link and the classes of a table of coefficients', () => {
    const folder = new Folder();
    folder.write('model.csv', 'term,estimate\n(intercept),-1\nstores,0.5\n');
    folder.write('data.csv', 'hive,stores\nA,1\nB,4\n');
    const predict = ['predict', '--model', 'model.csv', '--data', 'data.csv', '--id', 'hive'];
    expect(folder.run(predict).out).toBe('hive,prediction\nA,-0.5\nB,1\n');
    const logit = folder.run([...predict, '--link', 'logit', '--positive', 'yes', '--negative', 'no']);
    expect(logit.out.split('\n').map((line) => line.split(',').slice(0, 2).join(','))).toEqual([
      'hive,prediction',
      'A,no',
      'B,yes',
      '',
    ]);
  });

  it('says which rows have no prediction, and ends with 1', () => {
    const folder = new Folder();
    folder.write('model.csv', 'term,estimate\nstores,0.5\n');
    folder.write('data.csv', 'hive,stores\nA,1\nB,\n');
    const { code, out, said } = folder.run([
      'predict',
      '--model',
      'model.csv',
      '--data',
      'data.csv',
      '--id',
      'hive',
    ]);
    expect([code, out]).toEqual([1, 'hive,prediction\nA,0.5\nB,\n']);
    expect(said).toContain('data.csv, row 2 has no prediction');
  });

  it.each([
    [['--model', 'model.pkl'], 'model.pkl ends in none of'],
    [['--model', 'bad.pmml'], 'The XML cannot be read'],
    [['--model', 'gone.onnx'], 'gone.onnx cannot be read'],
    [['--model', 'model.csv', '--link', 'probit'], '--link is one of identity, logit, log'],
    [['--model', 'model.csv'], 'needs the column “height”'],
  ])('refuses %j in one sentence', (options, message) => {
    const folder = new Folder();
    folder.write('model.pkl', 'x');
    folder.write('bad.pmml', '<PMML');
    folder.write('model.csv', 'term,estimate\nheight,1\n');
    folder.write('data.csv', 'hive,stores\nA,1\n');
    const { code, out, said } = folder.run(['predict', ...options, '--data', 'data.csv']);
    expect([code, out]).toEqual([2, '']);
    expect(said).toContain(message);
    expect(said.trim().split('\n')).toHaveLength(1);
  });
});
