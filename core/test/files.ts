import { readFileSync } from 'node:fs';
import { readCsv } from '../src/data/formats/csv/read.js';
import type { Table } from '../src/data/table/table.js';

/** A file beside the tests. */
export const testFile = (path: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(path, import.meta.url)));

export const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);

export const tableOf = (text: string): Table => readCsv(bytesOf(text), { file: 'test.csv' }).table;

export const iris = (): Table => readCsv(testFile('open-data/iris.csv'), { file: 'iris.csv' }).table;
export const breastCancer = (): Table =>
  readCsv(testFile('open-data/breast-cancer.csv'), { file: 'breast-cancer.csv' }).table;
export const diabetes = (): Table =>
  readCsv(testFile('open-data/diabetes.csv'), { file: 'diabetes.csv' }).table;
