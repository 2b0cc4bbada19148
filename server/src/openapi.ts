import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { openApiDocument, schemaOf } from './openapi-document.js';

const [, , target] = process.argv;
if (!target) throw new Error('name the file to write');
const folder = dirname(target);
mkdirSync(folder, { recursive: true });
const write = (path: string, content: object) => writeFileSync(path, `${JSON.stringify(content, null, 2)}\n`);
const document = await openApiDocument();
write(target, document);
write(join(folder, 'exercise.schema.json'), schemaOf(document, 'ExerciseFile', 'An exercise as a file'));
