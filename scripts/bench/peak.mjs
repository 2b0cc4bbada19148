// Loaded before a program whose memory is measured: tells its peak on file descriptor 3 as it ends.
import { writeSync } from 'node:fs';

process.once('exit', () => writeSync(3, String(process.resourceUsage().maxRSS / 1024)));
