import 'reflect-metadata';
import { fileURLToPath } from 'node:url';
import { NestFactory } from '@nestjs/core';
import { DocumentBuilder, SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import { createGenerator } from 'ts-json-schema-generator';
import { WebModule } from './assembly/web.module.js';

type Schemas = NonNullable<NonNullable<OpenAPIObject['components']>['schemas']>;

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** The OpenAPI document: routes from the controllers, schemas from the types in `api.ts`. No database is needed. */
export async function openApiDocument(): Promise<OpenAPIObject> {
  const app = await NestFactory.create(WebModule, { preview: true, logger: false });
  app.setGlobalPrefix('api/v1');
  const info = new DocumentBuilder()
    .setTitle('Modest Sieve')
    .setDescription('Data sets, exercises and checked submissions.')
    .setVersion('1')
    .setOpenAPIVersion('3.1.0')
    .addCookieAuth('sieve_session')
    .build();
  const document = SwaggerModule.createDocument(app, info);
  await app.close();
  document.components = { ...document.components, schemas: schemas() };
  return document;
}

function schemas(): Schemas {
  const generator = createGenerator({
    path: here('../src/api/*.ts'),
    tsconfig: here('../tsconfig.json'),
    type: '*',
    encodeRefs: false,
    expose: 'export',
    skipTypeCheck: true,
  });
  const { definitions } = generator.createSchema();
  // A generic type that is only extended is written out where it is extended.
  const whole = JSON.stringify(definitions);
  const named = Object.entries(definitions ?? {}).filter(
    ([name]) => !name.includes('<') || whole.includes(JSON.stringify(`#/definitions/${name}`)),
  );
  const text = JSON.stringify(Object.fromEntries(named)).replaceAll(
    '#/definitions/',
    '#/components/schemas/',
  );
  return JSON.parse(text) as Schemas;
}

/** The schema of one type of the document by itself, with those that it names. */
export function schemaOf({ components }: OpenAPIObject, name: string, title: string): object {
  const all = components?.schemas ?? {};
  const named = new Set<string>();
  const visit = (one: string) => {
    if (named.has(one)) return;
    named.add(one);
    for (const [, other = ''] of JSON.stringify(all[one]).matchAll(/"#\/components\/schemas\/([^"]+)"/g))
      visit(other);
  };
  visit(name);
  const schema = {
    $schema: 'http://json-schema.org/draft-07/schema#',
    title,
    $ref: `#/definitions/${name}`,
    definitions: Object.fromEntries([...named].sort().map((one) => [one, all[one]])),
  };
  return JSON.parse(JSON.stringify(schema).replaceAll('#/components/schemas/', '#/definitions/')) as object;
}
