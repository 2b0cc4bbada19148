import { Inject, Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { CONFIG } from '../config/config.module.js';
import { databaseUrl, type Config, type DatabaseRole } from '../config/config.js';
import { KEPT_ALIVE } from '../config/line.js';

/** Every entity, for every connection, injected; what a connection may touch is the database's to say. */
export const ENTITIES = Symbol('entities');

type Entities = readonly (new () => object)[];

const CONNECTIONS: Readonly<Record<DatabaseRole, number>> = { identity: 4, student: 8, staff: 6, worker: 6 };

/** The connections of this process, one pool for each database role, opened when first asked for. */
@Injectable()
export class Databases implements OnApplicationShutdown {
  private readonly sources = new Map<DatabaseRole, Promise<DataSource>>();

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    @Inject(ENTITIES) private readonly entities: Entities,
  ) {}

  /** The manager of a role's connection. Which role a request gets is decided in `access.guard.ts` alone. */
  async of(role: DatabaseRole): Promise<EntityManager> {
    let source = this.sources.get(role);
    if (!source) {
      source = this.open(role);
      this.sources.set(role, source);
    }
    try {
      return (await source).manager;
    } catch (error) {
      this.sources.delete(role);
      throw error;
    }
  }

  private open(role: DatabaseRole): Promise<DataSource> {
    return new DataSource({
      type: 'postgres',
      url: databaseUrl(this.config, role),
      entities: [...this.entities],
      applicationName: `modest-sieve ${role}`,
      poolSize: CONNECTIONS[role],
      extra: KEPT_ALIVE,
    }).initialize();
  }

  async onApplicationShutdown(): Promise<void> {
    for (const source of this.sources.values()) await (await source).destroy();
  }
}
