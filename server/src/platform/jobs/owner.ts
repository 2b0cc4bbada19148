import PgBoss from 'pg-boss';
import { EXPIRY_MARGIN, JOB_KINDS, JOBS } from './queues.js';

/** Creates the tables of the queue and one queue for each kind of job. */
export class PgBossOwner {
  constructor(private readonly ownerUrl: string) {}

  async migrate(): Promise<void> {
    const boss = new PgBoss({ connectionString: this.ownerUrl, supervise: false, schedule: false, max: 2 });
    await boss.start();
    try {
      for (const kind of JOB_KINDS) {
        const { retries, seconds } = JOBS[kind];
        const options = {
          name: kind,
          retryLimit: retries,
          retryDelay: 1,
          retryBackoff: true,
          expireInSeconds: seconds + EXPIRY_MARGIN,
        };
        if (await boss.getQueue(kind)) await boss.updateQueue(kind, options);
        else await boss.createQueue(kind, options);
      }
    } finally {
      await boss.stop({ graceful: false, wait: true });
    }
  }
}
