// Tries what a submitted model might, in a process that was started as its own is, and reports how each attempt failed.
import { spawn } from 'node:child_process';
import dgram from 'node:dgram';
import dns from 'node:dns';
import { readFileSync } from 'node:fs';
import net from 'node:net';
import { Worker } from 'node:worker_threads';
import { seal } from '../../dist/platform/models/seal.js';

seal();
const failing = (act) => {
  try {
    act();
    return 'done';
  } catch (error) {
    return error.code ?? (error.name === 'ReferenceError' ? error.name : error.message);
  }
};
process.send({
  connect: failing(() => net.connect(1, '127.0.0.1')),
  datagram: failing(() => dgram.createSocket('udp4').send('a', 1, '127.0.0.1')),
  lookup: failing(() => dns.lookup('localhost', () => undefined)),
  fetch: failing(() => fetch('http://127.0.0.1')),
  file: failing(() => readFileSync('/etc/hostname')),
  project: failing(() => readFileSync(new URL('../../../package.json', import.meta.url))),
  process: failing(() => spawn('true')),
  thread: failing(() => new Worker('1', { eval: true })),
});
