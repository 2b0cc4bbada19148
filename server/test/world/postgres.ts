import { plugIn, pullPlug, type OwnPostgres } from '../../../scripts/machine.mjs';

/** The PostgreSQL of the tests, which `scripts/test.mjs` started. */
const cluster = JSON.parse(process.env.SIEVE_TEST_POSTGRES ?? '{}') as OwnPostgres;

export const stopPostgres = (): void => pullPlug(cluster);
export const startPostgres = (): void => plugIn(cluster);
