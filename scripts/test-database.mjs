// Gives each of Jest's workers a PostgreSQL of its own: tests stop it, and look at queues that others would empty.
const databases = JSON.parse(process.env.SIEVE_TEST_DATABASES ?? '[]');
const own = databases[Number(process.env.JEST_WORKER_ID ?? 1) - 1];
if (own) {
  process.env.SIEVE_DATABASE_URL = own.url;
  process.env.SIEVE_TEST_POSTGRES = JSON.stringify(own);
}
