// Loaded before a program whose memory is measured: writes its peak to file descriptor 3 as it ends.
import { writeSync } from 'node:fs';
import { isMainThread } from 'node:worker_threads';

// Threads of a program have the same peak.
if (isMainThread) process.once('exit', () => writeSync(3, String(process.resourceUsage().maxRSS / 1024)));
