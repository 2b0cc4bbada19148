/**
 * How soon each side sees that the other is gone without a word: a host that lost its network, or its power. Within about
 * 25 seconds, which is less than a check may take: what a worker held must be free when its job is taken up by another.
 */
const [IDLE, INTERVAL, COUNT] = [10, 5, 3];

/** For the client of a connection: it asks after this time of silence, then every second. */
export const KEPT_ALIVE = { keepAlive: true, keepAliveInitialDelayMillis: IDLE * 1000 };

/**
 * The address of a connection with which the database asks as well: it would keep the locks of a transaction that nobody
 * will end, by the usual settings of an operating system for more than two hours.
 */
export function watchedUrl(url: string): string {
  const watched = new URL(url);
  const settings = {
    tcp_keepalives_idle: IDLE,
    tcp_keepalives_interval: INTERVAL,
    tcp_keepalives_count: COUNT,
    // In milliseconds: where something was sent and nobody confirms it, no further question is asked.
    tcp_user_timeout: (IDLE + INTERVAL * COUNT) * 1000,
  };
  const own = watched.searchParams.get('options') ?? '';
  const options = Object.entries(settings).map(([name, value]) => `-c ${name}=${value}`);
  watched.searchParams.set('options', [own, ...options].join(' ').trim());
  return watched.href;
}
