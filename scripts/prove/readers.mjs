// Every reader of tables against damaged files: no crash, no hang, no growth of memory, no table at odds with itself.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { tableFromArrays, tableToIPC } from 'apache-arrow';
import { strToU8 } from 'fflate';
import { seededRandom, SieveError } from '../../core/dist/foundation/index.js';
import { formatOf, readTable, writeCsv } from '../../core/dist/data/index.js';
import { ROOT } from '../machine.mjs';
import { workbook } from './workbook.mjs';

/** As the command line has them; it is bundled, and says nothing of its types. */
const { Threads } = await import(String(new URL('../../cli/dist/threads.js', import.meta.url)));

/** Seconds after which a thread that reads a binary file is ended. */
const LIMIT = 0.5;
/** Milliseconds after which a file counts as one that hangs all the same. */
const HANG = 5000;

const rows = Array.from({ length: 40 }, (_, i) => ({
  id: `h${i}`,
  weight: i / 4,
  seen: `2024-04-${String((i % 28) + 1).padStart(2, '0')}`,
  queen: i % 3 === 0 ? 'young, marked' : 'old',
}));
const csv = `id,weight,seen,queen\n${rows.map((r) => `${r.id},${r.weight},${r.seen},"${r.queen}"`).join('\n')}\n`;

/** A whole file of each format. */
async function seeds() {
  const { table } = await readTable(strToU8(csv), { file: 'x.csv' });
  return {
    csv: strToU8(csv),
    tsv: strToU8(csv.replaceAll(',', '\t')),
    json: strToU8(JSON.stringify(rows)),
    ndjson: strToU8(rows.map((r) => JSON.stringify(r)).join('\n')),
    parquet: await formatOf('x.parquet').write(table),
    xlsx: workbook([Object.keys(rows[0]), ...rows.map((r) => Object.values(r))]),
    arff: strToU8(
      `@relation hives\n@attribute id string\n@attribute weight numeric\n@attribute queen {old,'young, marked'}\n@data\n${rows.map((r) => `${r.id},${r.weight},'${r.queen}'`).join('\n')}\n`,
    ),
    arrow: tableToIPC(
      tableFromArrays({ id: rows.map((r) => r.id), weight: Float64Array.from(rows, (r) => r.weight) }),
      'file',
    ),
    iris: new Uint8Array(readFileSync(join(ROOT, 'core/test/open-data/iris.csv'))),
  };
}

/** Up to four changes: bits turned, bytes put in, removed or copied, the end cut off. */
function damaged(bytes, random) {
  let out = Uint8Array.from(bytes);
  for (let change = 1 + random.below(4); change > 0 && out.length > 0; change--) {
    const at = random.below(out.length);
    const length = 1 + random.below(Math.min(40, out.length - at));
    const piece = out.slice(at, at + length);
    const joined = (...parts) => {
      const whole = new Uint8Array(parts.reduce((n, part) => n + part.length, 0));
      let place = 0;
      for (const part of parts) {
        whole.set(part, place);
        place += part.length;
      }
      return whole;
    };
    switch (random.below(6)) {
      case 0:
        out[at] ^= 1 << random.below(8);
        break;
      case 1:
        out[at] = random.below(256);
        break;
      case 2:
        out = joined(out.subarray(0, at), out.subarray(at + length));
        break;
      case 3:
        out = joined(out.subarray(0, at), piece, out.subarray(at));
        break;
      case 4:
        out = joined(
          out.subarray(0, at),
          Uint8Array.from(piece, () => random.below(256)),
          out.subarray(at),
        );
        break;
      default:
        out = out.slice(0, at);
    }
  }
  return out;
}

/** What is at odds in a table that was read: lengths, dictionaries, or another table when it is written and read again. */
async function oddsOf({ table }) {
  for (const column of table.columns) {
    const cells = column.codes ?? column.values;
    if (cells.length !== table.rowCount)
      return `${column.name} has ${cells.length} of ${table.rowCount} cells`;
    const { levels } = column;
    if (levels && !levels.every((level, i) => i === 0 || levels[i - 1] < level))
      return `${column.name}: levels out of order`;
    if (levels && !column.codes.every((code) => code >= -1 && code < levels.length))
      return `${column.name}: a code without a level`;
    if (column.values?.some((value) => value === Infinity || value === -Infinity))
      return `${column.name} holds an infinite number`;
  }
  const once = writeCsv(table);
  // Texts with blanks around them, or that are blank, are not distinguished from missing ones in CSV: names are trimmed there.
  if (/(^|[,"\n])\s|\s([,"\n]|$)|\r|\0/.test(once.replaceAll(/\n/g, '|'))) return null;
  const again = await readTable(strToU8(once), { file: 'again.csv' }).catch((error) => error);
  if (again instanceof Error)
    return again instanceof SieveError && ['not-text', 'html-file'].includes(again.code)
      ? null
      : `read again: ${again.message}`;
  return writeCsv(again.table) === once ? null : 'it is another table when it is written and read again';
}

/**
 * @param files damaged copies of each format
 * @param only names of formats, all of them where empty
 */
async function readersRun(files, only) {
  const results = [];
  const crew = new Threads(1, LIMIT);
  for (const [name, whole] of Object.entries(await seeds())) {
    if (only.length > 0 && !only.includes(name)) continue;
    const extension = name === 'iris' ? 'csv' : name;
    const random = seededRandom(1, name);
    const found = { name, files, read: 0, refused: 0, stopped: 0, crashed: [], odd: [], slowest: 0 };
    let before = 0;
    for (let i = 0; i < files; i++) {
      if (i === Math.floor(files / 2)) {
        globalThis.gc?.();
        before = process.memoryUsage().rss;
      }
      const bytes = damaged(whole, random);
      const start = performance.now();
      try {
        const read = await readTable(
          bytes,
          { file: `x.${extension}` },
          { crew: formatOf(`x.${extension}`).isBinary ? crew : undefined },
        );
        found.read++;
        const odds = await oddsOf(read);
        if (odds !== null) found.odd.push(`file ${i}: ${odds}`);
      } catch (error) {
        // By name: the bundle of the command line has a class of its own.
        const isRefusal = error?.name === 'SieveError';
        if (isRefusal && error.code === 'too-much') found.stopped++;
        else if (isRefusal) found.refused++;
        else found.crashed.push(`file ${i}: ${error}`);
      }
      found.slowest = Math.max(found.slowest, performance.now() - start);
    }
    globalThis.gc?.();
    found.growth = Math.round((process.memoryUsage().rss - before) / 2 ** 20);
    results.push(found);
    process.stderr.write(
      `${name}: ${found.read} read, ${found.refused} refused, slowest ${Math.round(found.slowest)} ms\n`,
    );
  }
  await crew.stop();
  return results;
}

export const readersHold = (results) =>
  results.every((r) => r.crashed.length === 0 && r.odd.length === 0 && r.slowest < HANG);

if (process.argv[1]?.endsWith('readers.mjs')) {
  const [files, ...only] = process.argv.slice(2);
  const results = await readersRun(Number(files), only);
  process.stdout.write(`${JSON.stringify(results)}\n`);
}
