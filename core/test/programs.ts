import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export type Language = 'python' | 'r';

/** A program in a folder of files, and the file that it is to write. */
export interface Work {
  readonly name: string;
  readonly program: string;
  readonly files: Readonly<Record<string, Uint8Array | string>>;
}

/** Runs programs one after another in one process, each in its folder; what one of them cannot do ends that one alone. */
const RUNNERS: Record<
  Language,
  { readonly command: string; readonly asks: string; readonly source: string }
> = {
  python: {
    // Debian's own, which has Debian's scikit-learn.
    command: '/usr/bin/python3',
    asks: 'import pandas, sklearn',
    source: `import contextlib, io, os, runpy, sys, traceback, warnings
warnings.simplefilter("ignore")
for folder in sys.argv[1:]:
    os.chdir(folder)
    said = io.StringIO()
    try:
        with contextlib.redirect_stdout(said):
            runpy.run_path("program")
    except BaseException:
        said.write(traceback.format_exc())
    with open("said", "w") as file:
        file.write(said.getvalue())
`,
  },
  r: {
    command: '/usr/bin/Rscript',
    asks: 'stopifnot(requireNamespace("rpart", quietly = TRUE), requireNamespace("nnet", quietly = TRUE))',
    source: `for (folder in commandArgs(trailingOnly = TRUE)) {
  setwd(folder)
  said <- capture.output(tryCatch(
    suppressWarnings(source("program", local = new.env(parent = globalenv()))),
    error = function(problem) print(problem)))
  writeLines(said, "said")
}
`,
  },
};

/** Whether the language and the libraries that starters use are installed here. */
export function has(language: Language): boolean {
  const { command, asks } = RUNNERS[language];
  const option = language === 'python' ? '-c' : '-e';
  return existsSync(command) && spawnSync(command, [option, asks]).status === 0;
}

/** What each program printed, or the error that ended it, and the file that it wrote. */
export function runPrograms(
  language: Language,
  work: readonly Work[],
  writes: string,
): Map<string, { readonly said: string; readonly written: Uint8Array | null }> {
  const all = mkdtempSync(join(tmpdir(), 'sieve-programs-'));
  try {
    const folders = work.map(({ program, files }, i) => {
      const folder = join(all, String(i));
      mkdirSync(folder);
      for (const [name, content] of Object.entries({ ...files, program }))
        writeFileSync(join(folder, name), content);
      return folder;
    });
    const { command, source } = RUNNERS[language];
    const runner = join(all, 'runner');
    writeFileSync(runner, source);
    // One thread for each library: several wait for one another in loops where the processor has other work.
    const env = { ...process.env, OMP_NUM_THREADS: '1', OPENBLAS_NUM_THREADS: '1' };
    const { stderr } = spawnSync(command, [runner, ...folders], { encoding: 'utf8', env });
    return new Map(
      folders.map((folder, i) => {
        const [said, written] = ['said', writes].map((file) => join(folder, file));
        return [
          work[i]?.name ?? '',
          {
            said: said !== undefined && existsSync(said) ? readFileSync(said, 'utf8') : stderr,
            written:
              written !== undefined && existsSync(written) ? new Uint8Array(readFileSync(written)) : null,
          },
        ];
      }),
    );
  } finally {
    rmSync(all, { recursive: true, force: true });
  }
}

/** The code of a notebook as one program. */
export function codeOfNotebook(text: string): string {
  const { cells } = JSON.parse(text) as { cells: { cell_type: string; source: string[] }[] };
  return cells.flatMap(({ cell_type, source }) => (cell_type === 'code' ? [source.join('')] : [])).join('\n');
}
