// What one web process carries of the pages that a class asks for at once, and what workers on hosts of their own carry.
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import pg from 'pg';
import { canMakeHosts, makeHosts, relay } from './hosts.mjs';
import { fileOf, joined, releasedExercise } from './people.mjs';
import { moveDatabase, startDatabase, startProcess } from './program.mjs';

const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));
const quantile = (values, p) => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * p))];
};
const TICK = 1000 / Number(execFileSync('getconf', ['CLK_TCK'], { encoding: 'utf8' }));

/** Processor time of a process and of all that it started, in ms, ended ones included. */
function cpuOf(pid) {
  const about = (of) => {
    const fields = readFileSync(`/proc/${of}/stat`, 'utf8').split(') ').pop().split(' ');
    return { parent: Number(fields[1]), spent: fields.slice(11, 15).reduce((sum, n) => sum + Number(n), 0) };
  };
  const all = new Map();
  for (const name of readdirSync('/proc')) {
    if (!/^\d+$/.test(name)) continue;
    try {
      all.set(Number(name), about(name));
    } catch {
      // It ended in between; its parent has its time.
    }
  }
  const within = (of) => {
    let sum = all.get(of)?.spent ?? 0;
    for (const [child, { parent }] of all) if (parent === of) sum += within(child);
    return sum;
  };
  return within(pid) * TICK;
}

/** What the database process spends too: its pid is in the first line of its file. */
const postmaster = ({ data }) => Number(readFileSync(`${data}/postmaster.pid`, 'utf8').split('\n')[0]);

/** How much each of several processes spends while something is done. */
async function spending(pids, work) {
  const before = Object.entries(pids).map(([name, pid]) => [name, pid, cpuOf(pid)]);
  const result = await work();
  return { result, spent: Object.fromEntries(before.map(([name, pid, was]) => [name, cpuOf(pid) - was])) };
}

/** Asks for the pages of a class, so many a second, each for another student in turn. */
async function atRate(rate, seconds, ask) {
  const waits = [];
  const refused = [];
  const pending = [];
  const start = performance.now();
  for (let i = 0; i < rate * seconds; i++) {
    const due = start + (i * 1000) / rate;
    if (due > performance.now()) await pause(due - performance.now());
    pending.push(
      ask(i).then(
        ({ status }) => (status === 200 ? waits.push(performance.now() - due) : refused.push(status)),
        () => refused.push(0),
      ),
    );
  }
  await Promise.all(pending);
  const took = (performance.now() - start) / 1000;
  return {
    rate,
    answered: waits.length / took,
    refused: refused.length,
    median: quantile(waits, 0.5),
    p95: quantile(waits, 0.95),
  };
}

/** The pages that a student's browser asks for: the list, the sheet, the receipt. */
async function pagesRun(database, { students: count, rows, rates, seconds }) {
  const [web, worker] = [await startProcess(database, 'web'), await startProcess(database, 'worker')];
  const at = await releasedExercise(web.address, 'pages', rows);
  const students = [];
  for (let i = 1; i <= count; i++) students.push(await joined(web.address, at, 'pages', i));
  const file = fileOf(at.identifiers, 1);
  const receipts = [];
  for (const student of students) {
    let { status, body } = await student.upload(`${at.path}/submissions?wait=60`, 'mine.csv', file);
    while (status === 202) ({ status, body } = await student.call('GET', `${at.path}/receipts/${body.id}`));
    receipts.push(body.id);
  }
  const streams = students.map((student) => student.stream(`${at.course}/events`));
  await Promise.all(streams.map(({ open }) => open));
  const kinds = [() => `${at.course}/exercises`, () => at.path, (i) => `${at.path}/receipts/${receipts[i]}`];
  const ask = (i) => students[i % count].call('GET', kinds[i % kinds.length](i % count));
  const pids = { web: web.pid, database: postmaster(database) };
  const { result, spent } = await spending(pids, async () => {
    const found = [];
    for (const rate of rates) found.push(await atRate(rate, seconds, ask));
    return found;
  });
  const asked = rates.reduce((sum, rate) => sum + rate * seconds, 0);
  const memory = /VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${web.pid}/status`, 'utf8'));
  for (const { close } of streams) close();
  await Promise.all([web.kill('SIGTERM'), worker.kill('SIGTERM')]);
  return {
    rates: result,
    streams: count,
    perRequest: { web: spent.web / asked, database: spent.database / asked },
    memory: Math.round(Number(memory?.[1] ?? 0) / 1024),
  };
}

/** What one connection at the database sees of the receipts, and who is connected. */
async function watching(url) {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const one = async (sql) => (await client.query(sql)).rows[0];
  return {
    receipts: () =>
      one(
        `SELECT count(*)::int AS receipts, count(DISTINCT submission_id)::int AS checked,
                extract(epoch FROM max(created_at) - min(created_at))::float AS seconds FROM receipt`,
      ),
    forget: () => client.query('TRUNCATE receipt, vault.result, submission CASCADE'),
    connections: async () =>
      (
        await client.query(
          `SELECT client_addr::text AS address, count(*)::int AS n FROM pg_stat_activity
            WHERE datname = 'sieve' AND pid <> pg_backend_pid() GROUP BY 1`,
        )
      ).rows,
    end: () => client.end(),
  };
}

async function untilChecked(watch, count, patience = 300) {
  for (let i = 0; i < patience * 5; i++) {
    const found = await watch.receipts();
    if (found.checked >= count) return found;
    await pause(200);
  }
  throw new Error(`not all of ${count} files were checked within ${patience} s`);
}

/** Workers, each on a host of its own, check what waits for them; then files one by one. */
async function hostsRun(database, { students: count, rows, lines, singles }) {
  // Each process and relay that is under way is ended with this one.
  process.setMaxListeners(50);
  const most = Math.max(...lines.map(({ workers }) => workers), 2);
  const isApart = canMakeHosts();
  const net = isApart
    ? makeHosts(['db', 'web', ...Array.from({ length: most }, (_, i) => `w${i}`)])
    : { hosts: new Map(), end: () => undefined };
  const host = (name) => net.hosts.get(name) ?? null;
  if (isApart) await moveDatabase(database, host('db'));
  const watch = await watching(database.url);
  const web = await startProcess(database, 'web', { host: host('web') });
  const at = await releasedBy(database, web, rows);
  const students = [];
  for (let i = 1; i <= count; i++) students.push(await joined(web.address, at, 'hosts', i));
  const files = Array.from({ length: 10 }, (_, salt) => fileOf(at.identifiers, salt));
  const handIn = (i, wait = '') =>
    students[i % count].upload(`${at.path}/submissions${wait}`, 'mine.csv', files[i % files.length], {
      'idempotency-key': `${String(Math.random())}`,
    });
  const handAllIn = async () => {
    await watch.forget();
    for (let i = 0; i < count; i++) await handIn(i);
  };
  const startWorkers = async (workers, delay) => {
    const relays = [];
    const started = await Promise.all(
      Array.from({ length: workers }, async (_, i) => {
        const own = host(`w${i}`);
        const line = await relay(own, { to: new URL(database.url).hostname, port: database.port, delay });
        relays.push(line);
        const url = new URL(database.url);
        url.hostname = '127.0.0.1';
        url.port = String(line.port);
        return startProcess(database, 'worker', { host: own, url: url.href });
      }),
    );
    return {
      started,
      stop: async () => {
        await Promise.all(started.map((worker) => worker.kill('SIGKILL')));
        relays.forEach((line) => line.end());
      },
    };
  };

  const found = [];
  let perHandIn = 0;
  let perCheck = { worker: 0, database: 0 };
  let connections = [];
  for (const { workers, delay } of lines) {
    const sent = await spending({ web: web.pid }, handAllIn);
    perHandIn = sent.spent.web / count;
    const { started, stop } = await startWorkers(workers, delay);
    const pids = { database: postmaster(database) };
    started.forEach(({ pid }, i) => (pids[`w${i}`] = pid));
    const { result, spent } = await spending(pids, () => untilChecked(watch, count));
    // A worker's first moments are those of its start, which the first line alone would have to pay for.
    if (perCheck.worker === 0) {
      const { database: ofDatabase, ...ofWorkers } = spent;
      const all = Object.values(ofWorkers).reduce((sum, one) => sum + one, 0);
      perCheck = { worker: all / count, database: ofDatabase / count };
    }
    connections = await watch.connections();
    const waits = [];
    for (let i = 0; i < singles; i++) {
      const start = performance.now();
      let { status, body } = await handIn(i, '?wait=60');
      while (status === 202)
        ({ status, body } = await students[i % count].call('GET', `${at.path}/receipts/${body.id}`));
      waits.push(performance.now() - start);
      await pause(200);
    }
    found.push({
      workers,
      delay,
      perSecond: (count - 1) / result.seconds,
      median: quantile(waits, 0.5),
      p95: quantile(waits, 0.95),
    });
    await stop();
  }
  const cut = isApart ? await cutOff() : null;
  await web.kill('SIGTERM');
  await watch.end();
  net.end();
  return {
    isApart,
    lines: found,
    cut,
    perHandIn,
    perCheck,
    heldOut: at.identifiers.length,
    connections: Math.max(...connections.map(({ n }) => n), 0),
  };

  /** Two workers, of which one loses its line when a third of the files is checked. */
  async function cutOff() {
    await handAllIn();
    const { stop } = await startWorkers(2, 1);
    const start = performance.now();
    for (;;) {
      const { checked } = await watch.receipts();
      if (checked >= count / 3) break;
      await pause(20);
    }
    host('w0').cut();
    const whole = await untilChecked(watch, count);
    const seconds = (performance.now() - start) / 1000;
    host('w0').join();
    // What the worker that was away had begun must not become a second receipt.
    await pause(5000);
    const { receipts, checked } = await watch.receipts();
    await stop();
    return { files: count, checked, doubled: receipts - whole.checked, seconds };
  }
}

/** A worker of this machine imports and releases; the hosts only check. */
async function releasedBy(database, web, rows) {
  const worker = await startProcess(database, 'worker');
  const at = await releasedExercise(web.address, 'hosts', rows);
  await worker.kill('SIGTERM');
  return at;
}

/** @param pages sizes of the first half, @param hosts of the second */
export async function scaleRun({
  pages = { students: 300, rows: 2000, rates: [50, 100, 200, 300, 400], seconds: 10 },
  hosts = {
    students: 240,
    rows: 10_000,
    lines: [1, 20].flatMap((delay) => [1, 2, 4].map((workers) => ({ workers, delay }))),
    singles: 20,
  },
} = {}) {
  const database = await startDatabase();
  try {
    return { pages: await pagesRun(database, pages), hosts: await hostsRun(database, hosts) };
  } finally {
    await database.end();
  }
}
