// Single changes to the core's code, and whether its tests notice them: mutation testing with Stryker, by folder.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from '../machine.mjs';

/** Folders of the core, each with the tests that must notice a change there. */
const FOLDERS = {
  split: ['split'],
  folds: ['folds'],
  metrics: ['metrics'],
  check: ['check', 'questions'],
  questions: ['questions'],
  marking: ['marking/marking', 'marking/ladder', 'questions'],
  policy: ['policy'],
  draws: ['draws', 'questions/values'],
  comparison: ['comparison'],
};

/** Tests that would take minutes for each change: left out, so that what they alone notice counts as unnoticed. */
const SLOW = 'questions/honest.test';

const NOTICED = ['Killed', 'Timeout'];

/** A line that can be changed so that the program still runs: neither blank, a comment, an import nor a type. */
const IDLE =
  /^\s*($|\/\/|\/?\*|\}|\]|\)|import\b|export (type|interface|\*|\{)|type\b|interface\b|readonly\b)/;

/** One in so many lines of code of the files, evenly spread over them and the same ones each time. */
function linesOf(files, every, least) {
  const lines = files.flatMap((file) =>
    readFileSync(join(ROOT, file), 'utf8')
      .split('\n')
      .flatMap((line, i) => (IDLE.test(line) ? [] : [`${file}:${i + 1}-${i + 1}`])),
  );
  const wanted = Math.min(lines.length, Math.max(least, Math.ceil(lines.length / every)));
  return Array.from({ length: wanted }, (_, i) => lines[Math.floor(((i + 0.5) * lines.length) / wanted)]);
}

/** Changes one line of code in `every` of each folder, but `least` of them at least, and runs its tests. */
export function mutantRun({ every = 60, least = 10, folders = Object.keys(FOLDERS) } = {}) {
  return folders.map((folder) => {
    const files = readdirSync(join(ROOT, 'core/src', folder), { recursive: true })
      .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
      .sort()
      .map((file) => `core/src/${folder}/${file}`);
    const work = mkdtempSync(join(tmpdir(), 'sieve-mutants-'));
    const report = join(work, 'report.json');
    const tests = FOLDERS[folder].map((one) => `core/src/${one}`).join(' ');
    const config = {
      testRunner: 'command',
      commandRunner: {
        command: `test -e node_modules || ln -s '${join(ROOT, 'node_modules')}' node_modules; node --experimental-vm-modules --disable-warning=ExperimentalWarning node_modules/jest/bin/jest.js --selectProjects core --maxWorkers 1 --bail --testPathIgnorePatterns /dist/ /node_modules/ ${SLOW} --testPathPatterns ${tests}`,
      },
      mutate: linesOf(files, every, least),
      // Jest looks for the folder of each workspace.
      ignorePatterns: [
        '**',
        '!core/**',
        '!scripts/**',
        '!/*.json',
        '!/*.mjs',
        '!/*/package.json',
        'core/dist',
        'node_modules',
      ],
      mutator: { excludedMutations: ['StringLiteral'] },
      disableTypeChecks: false,
      reporters: ['json'],
      jsonReporter: { fileName: report },
      concurrency: 2,
      timeoutMS: 60_000,
      tempDirName: join(work, 'sandbox'),
      allowConsoleColors: false,
    };
    const file = join(work, 'stryker.json');
    writeFileSync(file, JSON.stringify(config));
    const { status, stdout, stderr } = spawnSync('npx', ['stryker', 'run', file, '--logLevel', 'error'], {
      cwd: ROOT,
      encoding: 'utf8',
      maxBuffer: 2 ** 28,
    });
    if (status !== 0) throw new Error(`${folder}: ${stdout}${stderr}`);
    const found = JSON.parse(readFileSync(report, 'utf8'));
    rmSync(work, { recursive: true, force: true });
    const mutants = Object.entries(found.files).flatMap(([name, { mutants: own }]) =>
      own.map((mutant) => ({ ...mutant, name })),
    );
    const judged = mutants.filter(({ status: s }) => [...NOTICED, 'Survived', 'NoCoverage'].includes(s));
    const noticed = judged.filter(({ status: s }) => NOTICED.includes(s)).length;
    return {
      folder,
      changes: judged.length,
      noticed,
      unnoticed: judged
        .filter(({ status: s }) => !NOTICED.includes(s))
        .map(({ name, location, replacement }) => `${name}:${location.start.line} ${replacement}`),
    };
  });
}
