import type { Protocol } from 'puppeteer-core';
import type { Someone } from './someone.js';

/** What a window receives when it opens a page: bodies as they come over the wire, compressed. */
export interface Received {
  /** Bytes of script of the page itself; workers have theirs on top. */
  readonly script: number;
  /** Bytes of everything. */
  readonly all: number;
  readonly files: readonly {
    readonly url: string;
    readonly type: string;
    readonly bytes: number;
    readonly encoding: string;
  }[];
}

/** Opens a page as a browser that has never been here, but for being signed in, and counts what comes. */
export async function weightOf(someone: Someone, path: string, isThere: string): Promise<Received> {
  const client = await someone.page.createCDPSession();
  await client.send('Network.enable');
  await client.send('Network.setCacheDisabled', { cacheDisabled: true });
  const requests = new Map<
    string,
    { url: string; type: string; encoding: string; headers: number; bytes: number }
  >();
  client.on(
    'Network.responseReceived',
    ({ requestId, response, type }: Protocol.Network.ResponseReceivedEvent) => {
      requests.set(requestId, {
        url: response.url,
        type,
        encoding: new Headers(response.headers).get('content-encoding') ?? '',
        headers: response.encodedDataLength,
        bytes: 0,
      });
    },
  );
  client.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    const request = requests.get(requestId);
    if (request) request.bytes = encodedDataLength - request.headers;
  });
  await someone.page.goto('about:blank');
  await someone.open(path);
  await someone.see(isThere);
  // Nothing new has begun for a second: what streams never ends.
  for (let before = -1; before !== requests.size; await new Promise((resolve) => setTimeout(resolve, 1000)))
    before = requests.size;
  await client.detach();
  const files = [...requests.values()];
  const sum = (list: typeof files) => list.reduce((total, { bytes }) => total + bytes, 0);
  return { script: sum(files.filter(({ type }) => type === 'Script')), all: sum(files), files };
}
