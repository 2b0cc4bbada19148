import { loadDemo } from './load.js';
import { signIns } from './sign-ins.js';

const [, , address] = process.argv;
if (address === undefined)
  throw new Error('name the address of a running server, such as http://127.0.0.1:4180');
await loadDemo(address);
process.stdout.write(signIns());
