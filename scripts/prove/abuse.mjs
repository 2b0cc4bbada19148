// One student sends the worst files they may, and a course imports all it may, while others go about their work.
import { readFileSync } from 'node:fs';
import { fileOf, joined, released, releasedExercise } from './people.mjs';
import { startProcess } from './program.mjs';
import { workbook } from './workbook.mjs';

const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));

/** The most memory that a process has held, in MiB. */
const mostMemory = (pid) =>
  Math.round(Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024);

/** Does one thing after another while something else goes on; the slowest, in ms, and how many. */
async function meanwhile(going, every, doing) {
  const times = [];
  let over = false;
  const repeated = (async () => {
    while (!over) {
      const start = performance.now();
      await doing(times.length);
      times.push(performance.now() - start);
      await pause(every);
    }
  })();
  try {
    await going;
  } finally {
    over = true;
  }
  await repeated;
  return { slowest: Math.max(...times), times: times.length };
}

/** @param size how many rows a table has, how many files the student sends, and how many tables are imported */
export async function abuseRun(database, { rows = 20_000, files = 100, imports = 8 } = {}) {
  const [web, worker] = [await startProcess(database, 'web'), await startProcess(database, 'worker')];
  const at = await releasedExercise(web.address, 'abuse', rows);
  const other = await releasedExercise(web.address, 'another', rows);
  const [worst, honest] = [
    await joined(web.address, at, 'worst', 1),
    await joined(web.address, at, 'honest', 2),
  ];
  // Long cells, long identifiers, a row that is named again and again, a whole file that is marked, and too much.
  const [first] = at.identifiers;
  const bad = [
    `id,prediction\n${at.identifiers.map((id) => `${id},${'w'.repeat(150)}`).join('\n')}\n`,
    `id,prediction\n${at.identifiers.map((id) => `${id}${'i'.repeat(150)},no`).join('\n')}\n`,
    `id,prediction\n${at.identifiers.map(() => `${first},no`).join('\n')}\n`,
    fileOf(at.identifiers, 3),
    `${'h'.repeat(30 * 2 ** 20)}\n`,
  ];
  const answers = new Map();
  const sending = (async () => {
    const send = async (i) => {
      const { status } = await worst.upload(`${at.path}/submissions`, 'bad.csv', bad[i % bad.length], {
        'idempotency-key': `bad${i}`,
      });
      answers.set(status, (answers.get(status) ?? 0) + 1);
    };
    const line = async (from) => {
      for (let i = from; i < files; i += 4) await send(i);
    };
    await Promise.all([0, 1, 2, 3].map(line));
  })();
  let taken = 0;
  const check = async () => {
    let { status, body } = await honest.upload(
      `${at.path}/submissions?wait=60`,
      'mine.csv',
      fileOf(at.identifiers, 1),
      { 'idempotency-key': `mine${taken++}` },
    );
    while (status === 202) ({ status, body } = await honest.call('GET', `${at.path}/receipts/${body.id}`));
    if (body.outcome !== 'checked') throw new Error(`an honest file came back as ${status} ${body.outcome}`);
  };
  const [checks, pages] = await Promise.all([
    meanwhile(sending, 200, check),
    meanwhile(sending, 100, (i) =>
      at.instructor.call('GET', [`${at.path}/class`, `${at.course}/exercises`, at.course][i % 3]),
    ),
  ]);
  // The other course releases while this one imports.
  const table = `id,x,y\n${Array.from({ length: rows * 20 }, (_, row) => `r${row},${(row * 31) % 977},${row % 2}`).join('\n')}\n`;
  const imported = new Map();
  const book = workbook(Array.from({ length: rows * 5 }, (_, row) => [`r${row}`, (row * 31) % 977, row % 2]));
  // Connections that the server closed while these were made are noticed before the next request takes one of them.
  await pause(1000);
  const importing = Promise.all(
    Array.from({ length: imports }, async (_, i) => {
      const [file, name] = i % 2 === 0 ? [table, `table${i}.csv`] : [book, `book${i}.xlsx`];
      const { status } = await at.instructor.upload(`${at.course}/data-sets`, name, file);
      imported.set(status, (imported.get(status) ?? 0) + 1);
    }),
  );
  const start = performance.now();
  await released(other);
  const release = performance.now() - start;
  await importing;
  const memory = mostMemory(web.pid);
  await Promise.all([web.kill('SIGTERM'), worker.kill('SIGTERM')]);
  const counts = (of) => [...of].map(([status, n]) => `${n} × ${status}`).join(', ');
  return {
    files,
    answers: counts(answers),
    checks,
    pages,
    imported: counts(imported),
    release,
    memory,
    rows,
  };
}
