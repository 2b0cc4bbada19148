// npm run prove [-- faults load scale abuse inputs audits verdicts searches slips likeness honest mutants hostile readers]: claims at full size. Each part's figures go to its own section of
// docs/evidence.md, those of `scale` to docs/scale.md. With --toy the parts run at a small size and nothing is written: times and memory do not count then.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import { join } from 'node:path';
import { needModules, needPackages, ROOT, run, say } from './machine.mjs';

needPackages(['postgresql']);
needModules();
const { build } = await import('./build.mjs');
build();
const { startDatabase } = await import('./prove/program.mjs');
const { abuseRun } = await import('./prove/abuse.mjs');
const { auditRun } = await import('./prove/audits.mjs');
const { faultRun } = await import('./prove/faults.mjs');
const { honestRun } = await import('./prove/honest.mjs');
const { inputRun } = await import('./prove/inputs.mjs');
const { likenessRun } = await import('./prove/likeness.mjs');
const { loadRun } = await import('./prove/load.mjs');
const { verdictRun } = await import('./prove/verdicts.mjs');
const { searchRun } = await import('./prove/searches.mjs');
const { scaleRun } = await import('./prove/scale.mjs');
const { scalePage } = await import('./prove/scale-page.mjs');
const { slipRun } = await import('./prove/slips.mjs');
const { hostileRun } = await import('./prove/hostile.mjs');
const { mutantRun } = await import('./prove/mutants.mjs');
const { readersHold } = await import('./prove/readers.mjs');

const EVIDENCE = join(ROOT, 'docs/evidence.md');
const seconds = (milliseconds) => `${(milliseconds / 1000).toFixed(2)} s`;
const where = `On ${new Date().toISOString().slice(0, 10)}, on ${cpus().length} × ${cpus()[0]?.model ?? 'unknown'}, ${Math.round(totalmem() / 2 ** 30)} GiB, Node ${process.version}.`;

async function withDatabase(work) {
  const database = await startDatabase();
  try {
    return await work(database);
  } finally {
    await database.end();
  }
}

/**
 * Every part: the heading of its section, the sizes of a toy run, and what it finds: whether it holds, and whether it keeps
 * within its bounds of time and memory.
 */
const PARTS = {
  faults: {
    title: 'Fault run',
    doing: '2,000 submissions, workers killed every 5 s, one restart of the database',
    // Nobody waits in a toy run until lost work is taken up by another.
    toy: { students: 6, files: 4, killEvery: 60_000, restarts: false },
    async run(sizes) {
      const faults = await withDatabase((database) => faultRun(database, sizes));
      return {
        holds: faults.lost === 0 && faults.doubled === 0 && faults.waiting === 0,
        text: `${faults.acknowledged} files handed in by ${faults.students} students, each sent until it was acknowledged, with one web process and two workers; one of the workers killed (SIGKILL) every ${faults.killEvery / 1000} s and
started again, and the database stopped at once and started again when half of the files were in.

| figure | |
| --- | --- |
| submissions acknowledged | ${faults.acknowledged} |
| of these in the database | ${faults.acknowledged - faults.lost} |
| lost | ${faults.lost} |
| checked exactly once | ${faults.checked} |
| with more than one result or receipt | ${faults.doubled} |
| whose receipt says that the check failed | ${faults.failed} |
| still waiting at the end | ${faults.waiting} |
| workers killed | ${faults.kills} |
| time | ${faults.seconds} s |`,
      };
    },
  },
  load: {
    title: 'Load run',
    doing: '300 students hand in within a minute',
    toy: { students: 8, rows: 400, within: 2000 },
    async run(sizes) {
      const load = await withDatabase((database) => loadRun(database, sizes));
      return {
        holds: load.checked === load.students,
        text: `${load.students} students hand in ${load.rows} rows each, spread evenly over ${load.within / 1000} s, with one web process and one worker; meanwhile an instructor asks for four pages in turn.

| figure | |
| --- | --- |
| files checked | ${load.checked} of ${load.students} |
| hand-in to receipt, median | ${seconds(load.median)} |
| hand-in to receipt, 95th percentile | ${seconds(load.p95)} |
| hand-in to receipt, slowest | ${seconds(load.slowest)} |
| answers to pages asked for meanwhile | ${load.pages}, median ${seconds(load.pageMedian)} |
| slowest of these | ${seconds(load.slowestPage)} |`,
      };
    },
  },
  scale: {
    title: 'Scale',
    doing: 'pages of a class, and workers on hosts of their own',
    page: 'docs/scale.md',
    toy: {
      pages: { students: 4, rows: 400, rates: [20], seconds: 1 },
      hosts: { students: 6, rows: 400, lines: [{ workers: 1, delay: 1 }], singles: 1 },
    },
    async run(sizes) {
      const scale = await scaleRun(sizes);
      const { cut } = scale.hosts;
      return {
        // The slowest rate must be answered whole.
        holds:
          scale.pages.rates[0].refused === 0 &&
          (cut === null || (cut.checked === cut.files && cut.doubled === 0)),
        text: scalePage(scale, where),
      };
    },
  },
  abuse: {
    title: 'Abuse run',
    doing: 'a hundred of the worst files of one student, and a course that imports all it may',
    toy: { rows: 400, files: 10, imports: 2 },
    async run(sizes) {
      const abuse = await withDatabase((database) => abuseRun(database, sizes));
      return {
        holds: true,
        isWithinBounds:
          abuse.memory < 600 &&
          abuse.pages.slowest < 1000 &&
          abuse.checks.slowest < 3000 &&
          abuse.release < 5000,
        text: `One student sends ${abuse.files} files, four at a time: cells and identifiers of 150 letters, one row named ${abuse.rows / 2} times, whole files that are marked, a header of 30 MB. Meanwhile another hands in a right file again and again, and the instructor asks for pages. Then a course imports tables of ${abuse.rows * 20} rows and workbooks of ${abuse.rows * 5} at once while another course releases an exercise. One web process and one worker.

| figure | |
| --- | --- |
| answers to the bad files, by status | ${abuse.answers} |
| honest hand-in to receipt, slowest of ${abuse.checks.times} | ${seconds(abuse.checks.slowest)} |
| pages meanwhile, slowest of ${abuse.pages.times} | ${seconds(abuse.pages.slowest)} |
| most memory of the web process | ${abuse.memory} MiB |
| answers to the imports, by status | ${abuse.imported} |
| release of the other course meanwhile | ${seconds(abuse.release)} |`,
      };
    },
  },
  inputs: {
    title: 'Odd inputs',
    doing: 'every route with what no program sends',
    toy: { bodies: 3 },
    async run(sizes) {
      const inputs = await withDatabase((database) => inputRun(database, sizes));
      for (const problem of inputs.failed.slice(0, 20)) say(problem);
      return {
        // Signing in with odd things is refused; all else is tried by somebody who is signed in.
        holds: inputs.failed.length === 0 && inputs.signedOut < 0.05 * inputs.tried,
        text: `An instructor, to whom everything of a course is open, sends to each route of the API addresses and queries that mean nothing, a list of hostile values (NUL, half a character, lists 2,000 deep, numbers beyond
any integer, long texts), and bodies made at random after the description of the API, most of them with odd values in one place or another.

| figure | |
| --- | --- |
| routes | ${inputs.routes} |
| inputs | ${inputs.tried} |
| taken | ${inputs.taken} |
| answered with a status of 500 or above, or not within a minute | ${inputs.failed.length} |`,
      };
    },
  },
  searches: {
    title: 'Searches through settings',
    doing: 'the best of twenty settings, on tables that are made up',
    toy: { tables: 1 },
    run(sizes) {
      const kinds = searchRun(sizes);
      const digits = (value) => value.toFixed(4);
      return {
        holds: kinds.every(({ wrong, tables }) => wrong <= Math.max(1, tables * 0.025)),
        text: `Searches of twenty settings over five folds, the first being the one that the search begins with; area under the ROC curve or root mean squared error. Luck that there is: the figure of the best over the folds less that of the same setting on 5,000 other rows, with as many rows to learn from.

| search | luck that is said | that there is | tables | a lead is said | of these none on other rows |
| ------ | ----------------- | ------------- | ------ | -------------- | --------------------------- |
${kinds.map(({ name, said, is, tables, leads, wrong }) => `| ${name} | ${digits(said)} | ${digits(is)} | ${tables} | ${leads} | ${wrong} |`).join('\n')}`,
      };
    },
  },
  slips: {
    title: 'Slips',
    doing: 'answers with a known mistake, right ones, and ones that are wrong for another reason',
    toy: { answers: 3, rights: 100, wrongs: 200, files: 6 },
    run(sizes) {
      const { values, predictions, assignments, unmeasured } = slipRun(sizes);
      const share = (named, of) => `${((100 * named) / of).toFixed(1)} %`;
      const rows = (run, of) =>
        [...run.made].map(([id, { n, named }]) => `| ${of} | ${id} | ${n} | ${share(named, n)} |`).join('\n');
      const wrongs = (run, of) =>
        `| ${of} | ${run.right} | ${run.rightNamed} | ${run.wrong} | ${share(run.wrongNamed, run.wrong)} |`;
      const isQuiet = (run) => run.rightNamed === 0 && run.wrongNamed <= Math.max(2, run.wrong * 0.01);
      return {
        holds: [values, predictions, assignments].every(isQuiet),
        text: `Answers made by making a mistake, typed with three to six decimals, on what the drawn kinds of figures give to one student after another; files of 80 to 680 rows, of numbers or of two to four classes. Wrong for another reason: near misses, figures of other students, random ones; files with rows that went astray, of a weak model, of one class too often, in random order; splits of other sizes, of whole groups but for a row or two, of an order of time that is nearly kept. *The best setting for the one-standard-error choice* is named only where the best setting itself was found right: of few settings any would fit by accident, so that it is not counted here. Not measured, for the tests have single cases of them: ${unmeasured.join(', ')}.

| of | right answers | of these with a slip | wrong for another reason | of these with a slip |
| --- | --- | --- | --- | --- |
${wrongs(values, 'values')}
${wrongs(predictions, 'predictions')}
${wrongs(assignments, 'splits and folds')}

| of | slip | answers with it | named |
| --- | --- | --- | --- |
${rows(values, 'values')}
${rows(predictions, 'predictions')}
${rows(assignments, 'splits and folds')}`,
      };
    },
  },
  audits: {
    title: 'Learned audit',
    doing: 'tables that are made up, honest ones and ones that leak',
    toy: { tables: 3 },
    run(sizes) {
      const kinds = auditRun(sizes);
      const honest = kinds.filter((kind) => kind.honest);
      const alarms = honest.reduce((sum, { unsure, fails }) => sum + unsure + fails, 0);
      const all = honest.reduce((sum, { holds, unsure, fails }) => sum + holds + unsure + fails, 0);
      return {
        holds:
          alarms <= all / 100 && kinds.every(({ honest, unsure, fails }) => honest || unsure + fails > 0),
        text: `Tables of 60 to 860 rows, half of them with a number as the target, half with two classes. ${all} honest tables: ${alarms} with an alarm.

| tables | | holds | unsure | fails |
| --- | --- | --- | --- | --- |
${kinds.map((kind) => `| ${[kind.name, kind.honest ? 'honest' : 'leaks', kind.holds, kind.unsure, kind.fails].join(' | ')} |`).join('\n')}`,
      };
    },
  },
  verdicts: {
    title: 'Verdicts in words',
    doing: 'sentences on data of which the truth is known',
    // Three tries show that it runs; their rates mean nothing.
    toy: { tries: 3 },
    run({ tries = 400 }) {
      const found = verdictRun({ tries });
      return {
        holds: found.every(({ holds }) => holds),
        text: `Each verdict of docs/verdicts.md on ${tries} sets of data that are made up: five folds, trees unless said otherwise. A rate within three standard errors of what is asked holds.

| verdict | situation | said | asked |
| --- | --- | --- | --- |
${found.map((one) => `| ${[one.verdict, one.situation, `${(100 * one.rate).toFixed(1)} %`, `${one.asked}${one.holds ? '' : ': does not hold'}`].join(' | ')} |`).join('\n')}`,
      };
    },
  },
  likeness: {
    title: 'Answers that are alike',
    doing: 'honest classes, and answers that were passed on',
    toy: { classes: 1, fileClasses: 2, students: 6, kinds: 2 },
    async run(sizes) {
      const { students = 24 } = sizes;
      const { typed, files } = likenessRun({ classes: 5, fileClasses: 500, students, ...sizes });
      const share = ({ flagged, classes }) => `${flagged} of ${classes}`;
      return {
        holds: typed.flagged <= 0.05 * typed.classes && files.flagged <= 0.05 * files.classes,
        text: `Classes of ${students} who work alone: typed numbers that are right, a known mistake, near misses or anything, of every generator that draws numbers; files of the models of a
starter notebook, two of five students with its first one unchanged, others with other models, settings, columns, seeds, roundings, bounds and fillings of missing cells. Then one student hands in what is right for another, or a
file of another of which one to eight rows were written over.

| figure | typed numbers | files |
| --- | --- | --- |
| honest classes with any answer that is said to be alike | ${share(typed)} | ${share(files)} |
| answers that were passed on, and found | ${typed.found} of ${typed.passedOn} | ${files.found} of ${files.passedOn} |
| not judged: right for many by chance, or of few numbers | ${typed.tooCommon} of ${typed.compared} wrong answers | ${files.fewNumbers} of ${files.classes} files |`,
      };
    },
  },
  honest: {
    title: 'Honest predictions and others',
    doing: 'out-of-fold predictions made by scikit-learn, and files that only look like these',
    toy: { seeds: [1], tables: 1 },
    run(sizes) {
      const found = honestRun(sizes);
      if (!found) return { holds: true, text: 'Left out: this machine has no scikit-learn.' };
      const share = ({ failed, files }) => failed / files;
      const isRare = ({ failed, files }) => failed <= 0.01 * files + 3 * Math.sqrt(0.01 * 0.99 * files);
      // Forests and boosting on features that say next to nothing are not better than a constant.
      const honest = found.filter(({ what, family }) => what === 'honest' && family !== 'any');
      return {
        holds: sizes.tables !== undefined || honest.every(isRare),
        text: `Tables of 80 to 600 rows, made up or open data sets, some with features that say next to nothing; five or ten folds; probabilities and figures rounded to four decimals. Each file is handed in to a question that names its family
(“any” names none). “Refused” are those that lose the marks for predictions: they are not those of the named model, or not better than a constant. Of honest
files for a named model at most 1 % may be refused, within three standard errors.

| file | model asked for | files | refused | |
| --- | --- | --- | --- | --- |
${found.map((one) => `| ${[one.what, one.family, one.files, one.failed, `${(100 * share(one)).toFixed(1)} %`].join(' | ')} |`).join('\n')}`,
      };
    },
  },
  mutants: {
    title: 'Changes that tests must notice',
    doing: 'single changes to the core, and its tests',
    toy: { every: 1000, least: 2, folders: ['assessment/policy'] },
    run(sizes) {
      const found = mutantRun(sizes);
      const sum = (key) => found.reduce((total, one) => total + one[key], 0);
      return {
        holds: sum('noticed') >= 0.9 * sum('changes') || sizes.every !== undefined,
        text: `Stryker changes one line of code in sixty, and ten at least, of each of the folders of the core that split, judge and mark: a comparison, a sign, a condition, a block. A change is noticed where a test of the folder, of its group, or of marking fails that reaches it;
the slowest tests are left out, and so is what runs only when a file is loaded. Some changes alter nothing that a test could see; they are counted as unnoticed here.

| folder | changes | noticed | |
| --- | --- | --- | --- |
${found.map((one) => `| ${[one.folder, one.changes, one.noticed, `${Math.round((100 * one.noticed) / Math.max(1, one.changes))} %`].join(' | ')} |`).join('\n')}

Not noticed: ${found.flatMap((one) => one.unnoticed.map((text) => `\`${text.replace(/\s+/g, ' ').replaceAll('`', '').replaceAll('|', '¦').slice(0, 90)}\``)).join(', ') || 'none'}.`,
      };
    },
  },
  hostile: {
    title: 'Hostile models',
    doing: 'models that are made to do harm, beside 50 files of predictions',
    toy: { rows: 400, files: 2, size: 0.001, most: 2 },
    async run(sizes) {
      const { alone, slowest, found, files } = await withDatabase((database) => hostileRun(database, sizes));
      return {
        holds:
          slowest <= alone + 2 &&
          found.every(({ outcome, seconds: took }) => outcome !== 'failed' && took < 120),
        text: `${found.length} students hand in a model that is made to do harm, all at once, while ${files} others hand in predictions, one every 0.2 s; one web process and one worker, which runs two models at a time. Each model is
to get a receipt with a sentence, and no file of predictions is to wait 2 s longer than without them. Times are from handing in to the receipt, so that models wait for one another.

| | slowest receipt of predictions |
| --- | --- |
| without models | ${seconds(alone * 1000)} |
| beside them | ${seconds(slowest * 1000)} |

| model | outcome | after | |
| --- | --- | --- | --- |
${found.map((one) => `| ${[one.what, one.outcome, `${one.seconds.toFixed(1)} s`, one.says.replaceAll('|', '¦')].join(' | ')} |`).join('\n')}`,
      };
    },
  },
  readers: {
    title: 'Damaged tables',
    doing: 'every reader against damaged files',
    toy: { files: 40 },
    run({ files = 10_000 }) {
      const { stdout, stderr, status } = spawnSync(
        process.execPath,
        ['--expose-gc', join(ROOT, 'scripts/prove/readers.mjs'), String(files)],
        { encoding: 'utf8', maxBuffer: 2 ** 28 },
      );
      if (status !== 0) throw new Error(stderr);
      const results = JSON.parse(stdout);
      for (const { name, crashed, odd } of results)
        for (const problem of [...crashed, ...odd].slice(0, 5)) say(`${name}: ${problem}`);
      return {
        holds: readersHold(results),
        text: `Each reader gets ${files.toLocaleString('en')} copies of a whole file, each with up to four changes: bits turned, bytes put in, taken out or copied, the end cut off. A copy is refused with an error that names the place, or read; what
is read must agree with itself (as many cells as rows in every column, sorted dictionaries, no infinite number) and come out the same when it is written as CSV and read again. Files of binary formats are read in a thread; one that
is not done after half a second, or that fills its memory, is ended with a sentence (“stopped”). Growth is that of resident memory over the
second half of the files.

| format | read | refused | stopped | crashed | at odds | slowest | growth |
| --- | --- | --- | --- | --- | --- | --- | --- |
${results.map((r) => `| ${[r.name, r.read, r.refused, r.stopped, r.crashed.length, r.odd.length, seconds(r.slowest), `${r.growth} MiB`].join(' | ')} |`).join('\n')}`,
      };
    },
  },
};

/** The sections of the document by their headings, in the order of the parts. */
function written() {
  if (!existsSync(EVIDENCE)) return new Map();
  const sections = readFileSync(EVIDENCE, 'utf8').split(/^## /m).slice(1);
  return new Map(sections.map((section) => [section.slice(0, section.indexOf('\n')), section.trim()]));
}

const isToy = process.argv.includes('--toy');
const asked = process.argv.slice(2).filter((word) => word !== '--toy');
const unknown = asked.find((name) => !Object.hasOwn(PARTS, name));
if (unknown !== undefined) {
  say(`There is no part “${unknown}”; there are ${Object.keys(PARTS).join(', ')}.`);
  process.exit(2);
}
let holds = true;
for (const [name, part] of Object.entries(PARTS)) {
  if (asked.length > 0 && !asked.includes(name)) continue;
  say(`${part.title}: ${part.doing} …`);
  const found = await part.run(isToy ? part.toy : {});
  const doesHold = found.holds && (isToy || found.isWithinBounds !== false);
  holds &&= doesHold;
  if (!isToy || !doesHold) say(found.text);
  if (!isToy && part.page) writePage(part.page, found.text);
  else if (!isToy) write(part.title, found.text);
}
say(holds ? 'Everything holds.' : 'Something does not hold.');
process.exitCode = holds ? 0 : 1;

/** Puts the figures of a part into its section of the document. */
function write(title, found) {
  const sections = written().set(title, `${title}\n\n${where}\n\n${found}`);
  const text = Object.values(PARTS).flatMap((part) =>
    sections.has(part.title) ? [`## ${sections.get(part.title)}`] : [],
  );
  writeFileSync(
    EVIDENCE,
    `# Evidence\n\nWritten by \`npm run prove\`, each section when its part was last run.\n\n${text.join('\n\n')}\n`,
  );
  format('docs/evidence.md');
}

/** A part that has a page of its own. */
function writePage(page, text) {
  writeFileSync(join(ROOT, page), text);
  format(page);
}

function format(page) {
  run('npx', ['prettier', '--write', '--log-level', 'warn', page]);
}
