import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { openApiDocument } from './openapi-document.js';

const [, , target] = process.argv;
if (!target) throw new Error('name the file to write');
mkdirSync(dirname(target), { recursive: true });
writeFileSync(target, `${JSON.stringify(await openApiDocument(), null, 2)}\n`);
