import type { SpawnSyncOptions } from 'node:child_process';

/** Where the project lies. */
export const ROOT: string;

/** What the machine lacks, as a sentence. */
export class SetupError extends Error {}

export const say: (text: string) => void;

/** Runs a command to its end. @returns what it printed; throws where it fails */
export function run(command: string, args: readonly string[], options?: SpawnSyncOptions): string;

export const chromiumPath: () => string | undefined;
export function needPackages(wanted: readonly string[]): void;
export function needModules(): void;
export function portTaken(port: number): Promise<boolean>;
export function freePort(): Promise<number>;
export function keptSecret(folder: string): string;

/** A PostgreSQL that was started for the commands or the tests. */
export interface OwnPostgres {
  readonly url: string;
  readonly data: string;
  readonly bin: string;
  readonly port: number;
  readonly stop: () => void;
  readonly stopped: () => Promise<void>;
}

export function startPostgres(options: {
  folder: string;
  port: number;
  secret: string;
  lasting?: boolean;
  copyOf?: string;
}): Promise<OwnPostgres>;

type Cluster = Pick<OwnPostgres, 'bin' | 'data' | 'port'>;
export function pullPlug(cluster: Cluster): void;
export function plugIn(cluster: Cluster): void;
