import { type ChildProcess, fork, type StdioOptions } from 'node:child_process';
import { basename, dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Every program of this server that runs in a process of its own, by its name in the build, with its source. */
export const PROGRAMS = {
  sumWorker: 'sums/sumWorker.ts',
  paperWorker: 'papers/paperWorker.ts',
  restoreWorker: 'backup/restoreWorker.ts',
  backup: 'backup/main.ts',
  verify: 'verify/main.ts',
  facts: 'facts/main.ts',
  demo: '../../demo/src/load/main.ts',
} as const;
export type Program = keyof typeof PROGRAMS;

/** As TypeScript in tests and benches, as a bundle in service. */
export const isSource = import.meta.url.endsWith('.ts');

/** Where this lies: parts that several programs share are put into a folder below theirs. */
const ownFolder = dirname(fileURLToPath(import.meta.url));
const built = basename(ownFolder) === 'assets' ? dirname(ownFolder) : ownFolder;

/** The file of a program. Tests that were built beforehand run the bundles, as a service does: `BUILT_PROGRAMS` names their folder. */
function fileOf(name: Program): string {
  if (!isSource) return join(built, `${name}.js`);
  const folder = process.env.BUILT_PROGRAMS;
  return folder ? resolve(folder, `${name}.js`) : join(ownFolder, '..', PROGRAMS[name]);
}

interface Beginning {
  args?: readonly string[];
  /** More memory than this ends it. */
  megabytes?: number;
  /** All that it may see of the environment beside PATH and TMPDIR: no address or password that it has no use for. */
  env?: Readonly<Record<string, string>>;
  stdio: StdioOptions;
}

/** Begins a program beside this one, at the lowest priority where this one is in service: whoever waits for an answer comes first. */
export function beginProgram(name: Program, { args = [], megabytes, env = {}, stdio }: Beginning): ChildProcess {
  const file = fileOf(name);
  return fork(file, [...args], {
    execArgv: [
      ...(megabytes ? [`--max-old-space-size=${megabytes}`] : []),
      ...(file.endsWith('.ts') ? ['--import', 'tsx'] : []),
    ],
    env: {
      PATH: process.env.PATH ?? '',
      ...(process.env.TMPDIR ? { TMPDIR: process.env.TMPDIR } : {}),
      // Tests wait for the program itself; a bench asks for what a service does.
      LOWEST_PRIORITY: isSource ? (process.env.PROGRAMS_YIELD ?? '0') : '1',
      ...env,
    },
    stdio,
  });
}
