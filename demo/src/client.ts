/** A person at the public HTTP API: keeps the cookies and speaks JSON. */
export class Visitor {
  private readonly cookies = new Map<string, string>();

  constructor(private readonly address: string) {}

  async call<T = unknown>(
    method: string,
    path: string,
    body?: object | FormData,
    headers: Record<string, string> = {},
  ): Promise<T> {
    const json = body !== undefined && !(body instanceof FormData);
    const response = await fetch(`${this.address}/api/v1${path}`, {
      method,
      headers: {
        // Tables are made up between requests: a connection that was kept could have been closed meanwhile.
        connection: 'close',
        cookie: Array.from(this.cookies, (pair) => pair.join('=')).join('; '),
        ...(json ? { 'content-type': 'application/json' } : {}),
        ...headers,
      },
      ...(body === undefined ? {} : { body: json ? JSON.stringify(body) : body }),
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(cookie) ?? [];
      this.cookies.set(name, value);
    }
    const type = response.headers.get('content-type') ?? '';
    const answer: unknown = type.includes('json')
      ? await response.json().catch(() => null)
      : new Uint8Array(await response.arrayBuffer());
    if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${JSON.stringify(answer)}`);
    return answer as T;
  }

  upload<T>(path: string, name: string, text: string, headers: Record<string, string> = {}): Promise<T> {
    const form = new FormData();
    form.set('file', new Blob([text]), name);
    return this.call<T>('POST', path, form, headers);
  }
}

/** Asks again until the answer is what is waited for. */
export async function until<T>(
  ask: () => Promise<T>,
  done: (answer: T) => boolean,
  what: string,
): Promise<T> {
  for (let i = 0; i < 1500; i++) {
    const answer = await ask();
    if (done(answer)) return answer;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error(`waited five minutes for ${what}`);
}
