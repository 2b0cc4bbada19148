import { randomUUID } from 'node:crypto';

export interface Reply<T> {
  readonly status: number;
  readonly type: string;
  readonly body: T;
  readonly text: string;
  readonly headers: Headers;
}

export const PASSWORD = 'ten letters and more';

/** Somebody with a browser: cookies and JSON. */
export class Visitor {
  private readonly cookies = new Map<string, string>();

  get cookie(): string {
    return Array.from(this.cookies, ([name, value]) => `${name}=${value}`).join('; ');
  }

  constructor(
    private readonly address: string,
    readonly email = `${randomUUID()}@test.example`,
  ) {}

  async call<T = { code?: string; title?: string }>(
    method: string,
    path: string,
    body?: object | FormData,
    headers: Record<string, string> = {},
  ): Promise<Reply<T>> {
    const json = body !== undefined && !(body instanceof FormData);
    const response = await fetch(`${this.address}/api/v1${path}`, {
      method,
      headers: { cookie: this.cookie, ...(json ? { 'content-type': 'application/json' } : {}), ...headers },
      ...(body === undefined ? {} : { body: json ? JSON.stringify(body) : body }),
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(cookie) ?? [];
      if (value === '') this.cookies.delete(name);
      else this.cookies.set(name, value);
    }
    const bytes = Buffer.from(await response.arrayBuffer());
    const type = response.headers.get('content-type') ?? '';
    const text = bytes.toString('latin1');
    const parsed: unknown =
      type.includes('json') && text !== '' ? JSON.parse(bytes.toString('utf8')) : undefined;
    return { status: response.status, type, body: parsed as T, text, headers: response.headers };
  }

  async signUp(name: string): Promise<this> {
    await this.call('POST', '/people', { email: this.email, name, password: PASSWORD });
    return this;
  }

  upload<T = { code?: string; title?: string }>(
    path: string,
    name: string,
    contents: string | Uint8Array<ArrayBuffer>,
    headers: Record<string, string> = {},
  ) {
    const form = new FormData();
    form.set('file', new Blob([contents]), name);
    return this.call<T>('POST', path, form, headers);
  }
}
