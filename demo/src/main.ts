import { loadDemo } from './load.js';

const [, , address] = process.argv;
if (address === undefined)
  throw new Error('name the address of a running server, such as http://127.0.0.1:4180');
process.stdout.write(await loadDemo(address));
