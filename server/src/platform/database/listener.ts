import type { Logger } from '@nestjs/common';
import pg from 'pg';
import { KEPT_ALIVE } from '../config/line.js';

const RETRY = 1000;

/** What listens to a channel of the database, and to whom it passes on what it hears. */
interface Listening {
  readonly url: string;
  readonly channel: string;
  readonly log: Logger;
  readonly hear: (payload: string) => void;
  /** Called each time that listening has begun. */
  readonly begun?: () => void;
}

/** Listens to a channel until it is closed; a lost connection is made again, and what was said meanwhile is lost. */
export class Listener {
  private client: pg.Client | null = null;

  constructor(private readonly listening: Listening) {
    void this.listen();
  }

  private async listen(): Promise<void> {
    const { url, channel, log, hear, begun } = this.listening;
    const client = new pg.Client({ connectionString: url, ...KEPT_ALIVE });
    this.client = client;
    client.on('notification', ({ payload }) => hear(payload ?? ''));
    client.on('error', (error) => log.warn(`lost the database: ${error.message}`));
    client.on('end', () => {
      if (this.client === client) setTimeout(() => void this.listen(), RETRY);
    });
    try {
      await client.connect();
      await client.query(`LISTEN ${channel}`);
      begun?.();
    } catch (error) {
      log.warn(`cannot listen: ${String(error)}`);
      await client.end().catch(() => undefined);
    }
  }

  async close(): Promise<void> {
    const { client } = this;
    this.client = null;
    await client?.end().catch(() => undefined);
  }
}
