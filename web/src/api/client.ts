import useSWR, { mutate, type SWRResponse } from 'swr';
import type { components } from './schema.js';
import { trouble } from './trouble.js';

export type Schemas = components['schemas'];

/** An error as the server tells it, or that the server could not be reached. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly field: string | null = null,
  ) {
    super(message);
  }
}

/** Why a question is given up that nobody waits for any more: nothing has failed. */
export const OVERTAKEN = 'overtaken';

async function request<T>(
  method: string,
  url: string,
  body?: object | FormData,
  headers: Record<string, string> = {},
  signal?: AbortSignal,
): Promise<T> {
  const json = body !== undefined && !(body instanceof FormData);
  let response: Response;
  try {
    response = await fetch(url, {
      method,
      headers: { ...(json ? { 'content-type': 'application/json' } : {}), ...headers },
      ...(body === undefined ? {} : { body: json ? JSON.stringify(body) : body }),
      ...(signal ? { signal } : {}),
    });
  } catch {
    if (signal?.aborted)
      throw new ApiProblem(0, signal.reason === OVERTAKEN ? OVERTAKEN : 'stopped', 'This was stopped.');
    trouble.set('The server cannot be reached.');
    throw new ApiProblem(
      0,
      'unreachable',
      'The server cannot be reached. Nothing was lost; try again in a moment.',
    );
  }
  const text = await response.text();
  trouble.set(response.status === 503 ? 'The server waits for its database.' : null);
  if (response.ok) return (text === '' ? undefined : JSON.parse(text)) as T;
  throw problemFrom(response.status, text);
}

function problemFrom(status: number, text: string): ApiProblem {
  try {
    const { code, title, place } = JSON.parse(text) as Schemas['ProblemDetails'];
    return new ApiProblem(status, code, title, place.field ?? null);
  } catch {
    return new ApiProblem(
      status,
      'unforeseen',
      'The server answered in a way that was not expected. Try again.',
    );
  }
}

/** An answer of the API, asked for once. */
export const fetchAnswer = <N extends keyof Schemas>(url: string): Promise<Schemas[N]> =>
  request<Schemas[N]>('GET', url);

/** The bytes of a file that the API hands out, or makes of a form. */
export async function fetchFile(url: string, form?: FormData): Promise<Uint8Array<ArrayBuffer>> {
  const response = await fetch(url, form ? { method: 'POST', body: form } : {});
  if (!response.ok) throw problemFrom(response.status, await response.text());
  return new Uint8Array(await response.arrayBuffer());
}

/** An answer of the API, kept fresh; null asks for nothing. */
export function useAnswer<N extends keyof Schemas>(url: string | null): SWRResponse<Schemas[N], ApiProblem> {
  return useSWR<Schemas[N], ApiProblem>(url, (key: string) => request<Schemas[N]>('GET', key));
}

/** A list of answers of the API. */
export function useAnswers<N extends keyof Schemas>(
  url: string | null,
): SWRResponse<Schemas[N][], ApiProblem> {
  return useSWR<Schemas[N][], ApiProblem>(url, (key: string) => request<Schemas[N][]>('GET', key));
}

/** Sends a change and asks again for everything that is shown. */
export async function send<T = void>(
  method: 'POST' | 'PUT' | 'PATCH' | 'DELETE',
  url: string,
  body?: object | FormData,
  headers?: Record<string, string>,
): Promise<T> {
  const answer = await request<T>(method, url, body, headers);
  await refresh();
  return answer;
}

/** Asks a question whose answer depends on a body and changes nothing. */
export const ask = <T>(url: string, body: object, signal?: AbortSignal): Promise<T> =>
  request<T>('POST', url, body, {}, signal);

/** Asks again for everything that is shown. */
export const refresh = (): Promise<unknown> => mutate(() => true);

export const api = (...parts: string[]): string => `/api/v1/${parts.map(encodeURIComponent).join('/')}`;
