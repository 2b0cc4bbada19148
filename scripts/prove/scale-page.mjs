// The page docs/scale.md, from what `npm run prove -- scale` measured.

const ms = (milliseconds) => `${milliseconds < 10 ? milliseconds.toFixed(1) : milliseconds.toFixed(0)} ms`;
const whole = (value) => Math.round(value).toLocaleString('en');

/** One deadline evening: courses, students in each, files of each within the last hour, and the share of them in its last ten minutes. */
const EVENING = { courses: 100, students: 300, files: 2, late: 0.5, every: 30 };
/** Connections that PostgreSQL takes as this project starts it, and those of one process at most (`databases.ts`, pg-boss, a listener). */
const CONNECTIONS = { most: 200, web: 29, worker: 11 };

/** @param where the machine, in a sentence */
export function scalePage({ pages, hosts }, where) {
  const { courses, students, files, late, every } = EVENING;
  const people = courses * students;
  const perSecond = (people * files * late) / 600;
  const asked = people / every;
  const cores = {
    hands: (perSecond * hosts.perHandIn) / 1000,
    checks: (perSecond * hosts.perCheck.worker) / 1000,
    pages: (asked * pages.perRequest.web) / 1000,
    database: (perSecond * hosts.perCheck.database + asked * pages.perRequest.database) / 1000,
  };
  const kept = pages.rates.filter(({ p95, refused }) => p95 < 500 && refused === 0);
  const most = kept.at(-1);
  const webs = Math.ceil(cores.hands + cores.pages);
  const [near] = hosts.lines;
  const far = hosts.lines.find(({ workers: n, delay }) => n === 1 && delay > near.delay);
  const workers = Math.ceil(perSecond / near.perSecond);
  const connections = webs * CONNECTIONS.web + workers * CONNECTIONS.worker;
  return `# Scale

Written by \`npm run prove -- scale\`: what one PostgreSQL, one web process and several workers carry. ${where} All of it, the browsers that ask included, ran on these processors at once, so that more workers cannot do more here than there are processors; what each piece costs is what counts.

## Pages of a class

${pages.streams} students are signed in and listen for events. They ask for the list of exercises, the sheet and their receipt in turn, so many a second, in one web process.

| asked each second | answered each second | median | 95th percentile | refused or failed |
| --- | --- | --- | --- | --- |
${pages.rates.map(({ rate, answered, median, p95, refused }) => `| ${rate} | ${whole(answered)} | ${ms(median)} | ${ms(p95)} | ${refused} |`).join('\n')}

One answer takes ${ms(pages.perRequest.web)} of a processor in the web process and ${ms(pages.perRequest.database)} in the database. ${most ? `Up to ${most.rate} a second 95 of 100 answers come within half a second.` : 'No rate kept 95 of 100 answers within half a second.'} The web process took at most ${pages.memory} MiB.

## Workers on hosts of their own

${hosts.isApart ? 'Database, web process and each worker are in network namespaces of their own on one machine. Between a worker and the database lies a relay that passes answers on later: the kernel here has no delays of its own.' : 'No network namespaces could be made here: every process ran on the machine itself, with a relay between a worker and the database that passes answers on later.'} Files of ${whole(hosts.heldOut)} rows wait, then the workers start; afterwards files come one by one.

| workers | round trip to the database | checks each second | hand-in to receipt, median | 95th percentile |
| --- | --- | --- | --- | --- |
${hosts.lines.map(({ workers: n, delay, perSecond: rate, median, p95 }) => `| ${n} | ${delay} ms | ${rate.toFixed(1)} | ${ms(median)} | ${ms(p95)} |`).join('\n')}

A hand-in takes ${ms(hosts.perHandIn)} of a processor in the web process; a check ${ms(hosts.perCheck.worker)} in the worker and ${ms(hosts.perCheck.database)} in the database.${hosts.cut ? ` One of two workers was cut off from the network when a third of ${hosts.cut.files} files was checked: all of them had a receipt ${hosts.cut.seconds.toFixed(1)} s later, ${hosts.cut.doubled === 0 ? 'none had two' : `${hosts.cut.doubled} had two`}, also after the line was joined again.` : ''}

## One evening, on paper

${courses} courses of ${students} students with one deadline: ${whole(people)} people, ${files} files each within the last hour, half of them in its last ten minutes, and a page every ${every} s from each. That is ${whole(perSecond)} files and ${whole(asked)} pages a second. By the costs above:

| piece | processors of this kind |
| --- | --- |
| web processes, files that come in | ${cores.hands.toFixed(1)} |
| web processes, pages | ${cores.pages.toFixed(1)} |
| workers, checks | ${cores.checks.toFixed(1)} |
| database | ${cores.database.toFixed(1)} |

- **The first limit** is ${first(cores, connections)}
- A web process computes on one processor beside its threads: ${webs} of them behind a proxy. One worker that is ${near.delay} ms away made ${near.perSecond.toFixed(1)} checks a second, so that ${workers} keep up${far ? `; ${far.delay} ms away ${Math.ceil(perSecond / far.perSecond)} do, since a check asks the database many times` : ''}. They hold up to ${webs} × ${CONNECTIONS.web} + ${workers} × ${CONNECTIONS.worker} = ${connections} connections; PostgreSQL, as this project starts it, takes ${CONNECTIONS.most}. With the last of these runs one host held up to ${hosts.connections}.
- If receipts may come later, fewer workers do: the queue keeps the order of courses and people, and nothing is lost.

## What is done then

- More connections than PostgreSQL should have: raise \`max_connections\`, or put a pooler that keeps sessions before it; events use \`LISTEN\`, which needs a session.
- Pages: more web processes. They share nothing but the database; sessions and limits are counted there. Lists and sheets can be read from a replica, receipts and hand-ins cannot: somebody who has just handed in must find it.
- Tables: cells and handed-in files are in the database and are most of its bytes. Where they outgrow it, an object store takes their place behind \`store/table-store.ts\` and \`platform/files\`.
- Queue: each kind of job is a lane of its own, taken course by course. A database for each group of courses would divide the queue as well; courses share people and sessions alone. None of this is built.
`;
}

/** Which limit is met first, in words. */
function first(cores, connections) {
  if (cores.database > 8)
    return `the database: ${cores.database.toFixed(1)} processors for the queries of one evening. The pages are most of it, so that a replica for lists and sheets comes first.`;
  if (connections > 0.9 * CONNECTIONS.most)
    return `the number of connections, ${connections} of ${CONNECTIONS.most}; then the processors of the web processes.`;
  return 'the processors of the web processes; connections and the database have room.';
}
