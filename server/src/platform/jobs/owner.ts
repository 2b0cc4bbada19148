import PgBoss from 'pg-boss';
import { EXPIRY_MARGIN, type JobKind } from './job-kind.js';

/** Creates the tables of the queue and one queue for each kind of job. */
export class PgBossOwner {
  constructor(private readonly ownerUrl: string) {}

  async migrate(kinds: readonly JobKind[]): Promise<void> {
    const boss = new PgBoss({ connectionString: this.ownerUrl, supervise: false, schedule: false, max: 2 });
    await boss.start();
    try {
      for (const { name, retries, seconds } of kinds) {
        const options = {
          name,
          retryLimit: retries,
          retryDelay: 1,
          retryBackoff: true,
          expireInSeconds: seconds + EXPIRY_MARGIN,
        };
        if (await boss.getQueue(name)) await boss.updateQueue(name, options);
        else await boss.createQueue(name, options);
      }
    } finally {
      await boss.stop({ graceful: false, wait: true });
    }
  }
}
