/** A PostgreSQL that was started for the commands or the tests. */
export interface OwnPostgres {
  readonly url: string;
  readonly data: string;
  readonly bin: string;
  readonly port: number;
  readonly stop: () => void;
}

export function startPostgres(options: {
  folder: string;
  port: number;
  secret: string;
}): Promise<OwnPostgres>;
export function freePort(): Promise<number>;

type Cluster = Pick<OwnPostgres, 'bin' | 'data' | 'port'>;
export function pullPlug(cluster: Cluster): void;
export function plugIn(cluster: Cluster): void;
