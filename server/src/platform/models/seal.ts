import dgram from 'node:dgram';
import dns from 'node:dns';
import net from 'node:net';

const refuse = () => {
  throw new Error('a model has no network');
};

/**
 * Takes the network from this process. Files, processes and threads are refused by Node's permission model, with which it
 * is started; the network is not, in the versions of Node that this runs on.
 */
export function seal(): void {
  net.Socket.prototype.connect = refuse;
  net.Server.prototype.listen = refuse;
  for (const name of ['bind', 'connect', 'send'] as const) dgram.Socket.prototype[name] = refuse;
  for (const name of ['lookup', 'resolve'] as const) Object.assign(dns, { [name]: refuse });
  for (const name of ['fetch', 'WebSocket', 'EventSource']) Reflect.deleteProperty(globalThis, name);
}
