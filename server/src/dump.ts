import { ConfigError, readConfig } from './platform/config/config.js';
import { backUp, restore } from './assembly/dump.js';

/** `npm run backup -- FILE` and `npm run restore -- FILE`. */

const [, , command, file] = process.argv;
try {
  if (file === undefined || (command !== 'backup' && command !== 'restore'))
    throw new ConfigError('Name the file: npm run backup -- FILE, or npm run restore -- FILE.');
  const config = readConfig();
  await (command === 'backup' ? backUp(config, file) : restore(config, file));
  console.log(
    command === 'backup' ? `Everything is in ${file}.` : `Everything in ${file} is in the database.`,
  );
} catch (error) {
  console.error(error instanceof ConfigError ? error.message : error);
  process.exitCode = 1;
}
