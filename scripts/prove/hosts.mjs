// Hosts on one machine, for the runs of `npm run prove`: network namespaces on a bridge of their own.
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';

const RELAY = fileURLToPath(new URL('relay.mjs', import.meta.url));
const NETWORK = '10.77.0';

function ip(...args) {
  const { status, stderr } = spawnSync('ip', args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(`ip ${args.join(' ')}: ${stderr}`);
}

/** Whether this machine lets us make hosts: that takes root, and `ip`. */
export const canMakeHosts = () => {
  const name = `sieve-${process.pid}`;
  if (spawnSync('ip', ['netns', 'add', name]).status !== 0) return false;
  return spawnSync('ip', ['netns', 'del', name]).status === 0;
};

/**
 * Makes hosts by their names, which reach one another and are reached from here.
 *
 * @returns what starts a program on each, its address, and what cuts its line and joins it again
 */
export function makeHosts(names) {
  const bridge = `svb${process.pid}`;
  const spaces = [];
  const end = () => {
    for (const space of spaces) spawnSync('ip', ['netns', 'del', space]);
    spawnSync('ip', ['link', 'del', bridge]);
  };
  process.once('exit', end);
  ip('link', 'add', bridge, 'type', 'bridge');
  ip('addr', 'add', `${NETWORK}.1/24`, 'dev', bridge);
  ip('link', 'set', bridge, 'up');
  const hosts = names.map((name, i) => {
    const [space, line, address] = [
      `sieve-${process.pid}-${name}`,
      `sv${i}-${process.pid}`,
      `${NETWORK}.${i + 2}`,
    ];
    ip('netns', 'add', space);
    spaces.push(space);
    ip('link', 'add', line, 'type', 'veth', 'peer', 'name', 'eth0', 'netns', space);
    ip('link', 'set', line, 'master', bridge);
    ip('link', 'set', line, 'up');
    ip('-n', space, 'addr', 'add', `${address}/24`, 'dev', 'eth0');
    for (const device of ['eth0', 'lo']) ip('-n', space, 'link', 'set', device, 'up');
    return {
      name,
      address,
      /** The command that runs a program on the host. */
      on: (program, args) => ['ip', ['netns', 'exec', space, program, ...args]],
      cut: () => ip('link', 'set', line, 'down'),
      join: () => ip('link', 'set', line, 'up'),
    };
  });
  return {
    hosts: new Map(hosts.map((host) => [host.name, host])),
    end: () => {
      process.off('exit', end);
      end();
    },
  };
}

/**
 * A port on loopback of a host that leads to another one, each answer so much later.
 *
 * @param host null for this machine itself
 */
export async function relay(host, { to, port, delay }) {
  const args = [RELAY, to, String(port), String(delay)];
  const [program, all] = host ? host.on(process.execPath, args) : [process.execPath, args];
  const child = spawn(program, all, { stdio: ['ignore', 'pipe', 'inherit'] });
  const end = () => child.kill('SIGKILL');
  process.once('exit', end);
  const [said] = await once(child.stdout, 'data');
  return {
    port: Number(String(said).trim()),
    end: () => {
      process.off('exit', end);
      end();
    },
  };
}
