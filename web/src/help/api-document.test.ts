import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { mentioned, routesByTopic, schemaWords, topicTitle, type ApiDocument } from './api-document.js';

const document = JSON.parse(
  readFileSync(new URL('../../../docs/api/openapi.json', import.meta.url), 'utf8'),
) as ApiDocument;

describe('the reference of the API', () => {
  it('has every route once, with who may call it', () => {
    const routes = [...routesByTopic(document).values()].flat();
    const expected = Object.entries(document.paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`),
    );
    expect(routes.map(({ method, path }) => `${method} ${path}`).sort()).toEqual(expected.sort());
    expect(routes.every(({ audience }) => audience !== '')).toBe(true);
    expect(routes.find(({ path }) => path.endsWith('/data-sets') && path.includes('{course}'))).toMatchObject(
      {
        method: 'GET',
        audience: 'instructor',
        answers: { $ref: '#/components/schemas/DataSetList' },
      },
    );
  });

  it('has all schemas that are mentioned', () => {
    const names = Object.keys(document.components.schemas);
    for (const schema of Object.values(document.components.schemas))
      for (const name of mentioned(schema)) expect(names).toContain(name);
  });

  it('says schemas in words', () => {
    expect(schemaWords({ type: 'array', items: { $ref: '#/components/schemas/Step' } })).toBe('list of Step');
    expect(schemaWords({ anyOf: [{ enum: ['a', 'b'] }, { type: 'null' }] })).toBe('"a" or "b" or null');
    expect(schemaWords({ additionalProperties: { type: 'string' } })).toBe('string by name');
    expect(schemaWords({ properties: { low: { type: ['number', 'null'] }, is: { const: 1 } } })).toBe(
      '{ low: number or null; is: 1 }',
    );
    expect([topicTitle('DataSets'), topicTitle('People')]).toEqual(['Data sets', 'People']);
  });
});
