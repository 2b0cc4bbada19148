import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';

/** Everything that a monitoring system may ask for, in Prometheus' text format. */
export const registry = new Registry();
collectDefaultMetrics({ register: registry });

export const requestSeconds = new Histogram({
  name: 'sieve_request_seconds',
  help: 'Time from the start of a request to the end of its answer',
  labelNames: ['method', 'route', 'status'],
  buckets: [0.005, 0.02, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30, 60],
  registers: [registry],
});

export const jobSeconds = new Histogram({
  name: 'sieve_job_seconds',
  help: 'Time that a job ran, by how it ended: done, failed, stopped',
  labelNames: ['kind', 'ended'],
  buckets: [0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30, 60, 300],
  registers: [registry],
});

export const jobsGivenUp = new Counter({
  name: 'sieve_jobs_given_up_total',
  help: 'Jobs that failed for the last time, or whose last worker died',
  labelNames: ['kind'],
  registers: [registry],
});

export const jobsWaiting = new Gauge({
  name: 'sieve_jobs_waiting',
  help: 'Jobs in the queue that no worker has taken up',
  labelNames: ['kind'],
  registers: [registry],
});
