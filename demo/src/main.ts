import { loadDemo } from './load.js';
import { signIns } from './sign-ins.js';

const [, , address, link, whole] = process.argv;
if (address === undefined || link === undefined)
  throw new Error(
    'name the address of a running server, such as http://127.0.0.1:4180, and the link that makes its first administrator',
  );
await loadDemo(address, link, whole === '--whole');
process.stdout.write(signIns());
