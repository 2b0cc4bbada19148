// The table of docs/benchmarks.md.
import { readFileSync, writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import { join } from 'node:path';
import { ROOT, run, say } from '../machine.mjs';

const REPORT = join(ROOT, 'docs/benchmarks.md');

const cell = (value, digits) => (value === null ? '' : value.toFixed(digits));

function lineOf({ title, size, seconds, spread, peak, theirSeconds, theirSpread, theirPeak, target }) {
  const ratio = theirSeconds === null ? null : seconds / theirSeconds;
  const cells = [
    title,
    size.toLocaleString('en'),
    cell(seconds, 2) + spread,
    cell(theirSeconds, 2) + theirSpread,
    cell(ratio, 2),
    target ?? '',
    Math.round(peak),
    theirPeak === null ? '' : Math.round(theirPeak),
    new Date().toISOString().slice(0, 10),
  ];
  return `| ${cells.join(' | ')} |`;
}

/** Work and number of rows: what a line of the table is of. */
const subjectOf = (line) =>
  line
    .split('|')
    .slice(1, 3)
    .map((one) => one.trim())
    .join(' ');

/** Lines of the table as it is, what was measured again in its place, and what is new at the end. */
function merged(lines) {
  const fresh = new Map(lines.map((line) => [subjectOf(line), line]));
  const known = readFileSync(REPORT, 'utf8')
    .split('\n')
    .filter((line) => line.startsWith('|') && !/^\| (work|-)/.test(line));
  const places = new Set(known.map(subjectOf));
  return [
    ...known.map((line) => fresh.get(subjectOf(line)) ?? line),
    ...lines.filter((line) => !places.has(subjectOf(line))),
  ];
}

/**
 * Says what was measured, and writes it.
 *
 * @param {any[]} rows
 * @param {object} how
 * @param {boolean} how.isWhole whether all work was measured, so that the table is made of it alone
 * @param {boolean} how.isWritten
 * @param {number} how.runs
 * @param {boolean} how.hasReference
 */
export function report(rows, { isWhole, isWritten, runs, hasReference }) {
  const lines = rows.map(lineOf);
  const text = `# Benchmarks

Written by \`npm run bench\`, on ${cpus().length} × ${cpus()[0]?.model ?? 'unknown'}, ${Math.round(totalmem() / 2 ** 30)} GiB, Node ${process.version}.
${hasReference ? 'The reference is pandas and scikit-learn from Debian’s packages, on the same machine and in turn with ours' : 'Debian’s python3-pandas and python3-sklearn are not installed here, so there is no reference'}; medians of ${runs} runs with the least and the most of them, largest peak of
resident memory. Whole processes count from their start to their end, the reference’s imports included; folds and draws count alone, on a table that was read before.

| work | rows | seconds | reference | ratio | at most | MiB | reference MiB | on |
| --- | --- | --- | --- | --- | --- | --- | --- | --- |
${(isWhole ? lines : merged(lines)).join('\n')}
`;
  say(text);
  if (!isWritten) return;
  writeFileSync(REPORT, text);
  run('npx', ['prettier', '--write', '--log-level', 'warn', 'docs/benchmarks.md']);
}
