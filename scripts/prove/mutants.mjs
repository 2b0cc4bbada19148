// Single changes to the core's code, and whether its tests notice them: mutation testing with Stryker.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import projects from '../../jest.config.mjs';
import { ROOT } from '../machine.mjs';

/** Folders of the core that split, judge and mark. */
const FOLDERS = [
  'splitting/splits',
  'splitting/folds',
  'metrics',
  'assessment/files',
  'assessment/questions',
  'assessment/marking',
  'assessment/policy',
  'assessment/generators',
  'evaluation/comparison',
];

/** Tests beside a folder that are of what it holds: those of its group, and for assessment those of marking. */
const testsOf = (folder) => [
  `<rootDir>/core/src/${folder}/**/*.test.ts`,
  `<rootDir>/core/src/${dirname(folder)}/*.test.ts`,
  ...(folder.startsWith('assessment/') ? ['<rootDir>/core/src/assessment/marking/*.test.ts'] : []),
];

/** Tests that take longest, run or read much beside: left out, so that what they alone notice counts as unnoticed. */
const SLOW = ['questions/assignments/honest.test', 'marking/(one-row|ladder).test'];

const NOTICED = ['Killed', 'Timeout'];

/** A line that can be changed so that the program still runs: neither blank, a comment, an import nor a type. */
const IDLE =
  /^\s*($|\/\/|\/?\*|\}|\]|\)|import\b|export (type|interface|\*|\{)|type\b|interface\b|readonly\b)/;

/** One in so many lines of code of a folder, evenly spread over its files and the same ones each time. */
function linesOf(folder, every, least, offset) {
  const files = readdirSync(join(ROOT, 'core/src', folder), { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
    .sort()
    .map((file) => `core/src/${folder}/${file}`);
  const lines = files.flatMap((file) =>
    readFileSync(join(ROOT, file), 'utf8')
      .split('\n')
      .flatMap((line, i) => (IDLE.test(line) ? [] : [`${file}:${i + 1}-${i + 1}`])),
  );
  const wanted = Math.min(lines.length, Math.max(least, Math.ceil(lines.length / every)));
  return Array.from({ length: wanted }, (_, i) => lines[Math.floor(((i + offset) * lines.length) / wanted)]);
}

/**
 * Changes one line of code in `every` of each folder, but `least` of them at least, and runs those of its tests that
 * reach it. What runs once, when a file is loaded, is left out: all tests would have to run for each such change.
 *
 * @param offset where the lines begin, from 0 to below 1: another one changes other lines
 */
export const mutantRun = ({ every = 60, least = 10, offset = 0.25, folders = FOLDERS } = {}) =>
  folders.map((folder) => {
    const judged = mutantsOf(folder, linesOf(folder, every, least, offset)).filter(({ status }) =>
      [...NOTICED, 'Survived', 'NoCoverage'].includes(status),
    );
    const unnoticed = judged.filter(({ status }) => !NOTICED.includes(status));
    return {
      folder,
      changes: judged.length,
      noticed: judged.length - unnoticed.length,
      unnoticed: unnoticed.map(
        ({ name, location, replacement }) => `${name}:${location.start.line} ${replacement}`,
      ),
    };
  });

/** What became of each change to some lines of a folder, under its own tests. */
function mutantsOf(folder, mutate) {
  const work = mkdtempSync(join(tmpdir(), 'sieve-mutants-'));
  const report = join(work, 'report.json');
  // In the folder where Stryker works.
  const core = { ...projects.projects.find(({ displayName }) => displayName === 'core') };
  for (const key of ['displayName', 'rootDir', 'roots']) delete core[key];
  const config = {
    testRunner: 'jest',
    testRunnerNodeArgs: ['--experimental-vm-modules', '--disable-warning=ExperimentalWarning'],
    jest: {
      projectType: 'custom',
      config: {
        projects: [],
        ...core,
        setupFiles: [],
        testMatch: testsOf(folder),
        roots: ['<rootDir>/core'],
        testTimeout: projects.testTimeout,
        testPathIgnorePatterns: [...core.testPathIgnorePatterns, ...SLOW],
      },
    },
    coverageAnalysis: 'perTest',
    ignoreStatic: true,
    mutate,
    // Jest looks for the folder of each workspace.
    ignorePatterns: ['**', '!core/**', '!scripts/**', '!/*.json', '!/*.mjs', '!/*/package.json', 'core/dist'],
    mutator: { excludedMutations: ['StringLiteral'] },
    disableTypeChecks: false,
    reporters: ['json'],
    jsonReporter: { fileName: report },
    concurrency: 2,
    // Each run loads all files of its tests again, and Node keeps those of the runs before.
    maxTestRunnerReuse: 20,
    timeoutMS: 60_000,
    dryRunTimeoutMinutes: 30,
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
  if (status !== 0) throw new Error(`${stdout}${stderr}`);
  const found = JSON.parse(readFileSync(report, 'utf8'));
  rmSync(work, { recursive: true, force: true });
  return Object.entries(found.files).flatMap(([name, { mutants: own }]) =>
    own.map((mutant) => ({ ...mutant, name })),
  );
}
