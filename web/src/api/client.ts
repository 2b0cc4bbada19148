import useSWR, { mutate, type SWRResponse } from 'swr';
import type { Address, AnswerOf, BodyOf, Method, Path, PathOf } from './address.js';
import { isConcerned, topicOf, type Topic } from './concerned.js';
import type { components } from './schema.js';
import { trouble } from './trouble.js';

export type Schemas = components['schemas'];

/** An error as the server reports it, or that the server could not be reached. */
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
export const fetchAnswer = <P extends PathOf<'get'>>(address: Address<P>): Promise<AnswerOf<P, 'get'>> =>
  request('GET', address);

/** The bytes of a file that the API hands out, or makes of a form. */
export async function fetchFile(address: Address, form?: FormData): Promise<Uint8Array<ArrayBuffer>> {
  const response = await fetch(address, form ? { method: 'POST', body: form } : {});
  if (!response.ok) throw problemFrom(response.status, await response.text());
  return new Uint8Array(await response.arrayBuffer());
}

/** An answer of the API, kept fresh; null asks for nothing. */
export const useAnswer = <P extends PathOf<'get'>>(
  address: Address<P> | null,
): SWRResponse<AnswerOf<P, 'get'>, ApiProblem> =>
  useSWR<AnswerOf<P, 'get'>, ApiProblem>(address, (key: Address<P>) => fetchAnswer(key));

/** Sends a change, and asks again for what is shown of what it concerns. */
export async function send<M extends Exclude<Method, 'get'>, P extends PathOf<M>>(
  method: M,
  address: Address<P>,
  ...[body, headers]: Sent<P, M>
): Promise<AnswerOf<P, M>> {
  const answer = await request<AnswerOf<P, M>>(method.toUpperCase(), address, body, headers);
  const topic = topicOf(address);
  await (topic ? refreshConcerned(topic.courseId, topic.about) : refresh());
  return answer;
}

/** The body, where there is one, and headers. */
type Sent<P extends Path, M extends Method> =
  BodyOf<P, M> extends undefined
    ? [body?: undefined, headers?: Record<string, string>]
    : [body: BodyOf<P, M>, headers?: Record<string, string>];

/** Asks a question whose answer depends on a body and changes nothing. */
export const ask = <P extends PathOf<'post'>>(
  address: Address<P>,
  body: BodyOf<P, 'post'>,
  signal?: AbortSignal,
): Promise<AnswerOf<P, 'post'>> => request('POST', address, body, {}, signal);

/** Asks again for everything that is shown. */
export const refresh = (): Promise<unknown> => mutate(() => true);

/** Asks again for what is shown of what a change in a course concerns. */
export const refreshConcerned = (courseId: string, about: Topic): Promise<unknown> =>
  mutate((key) => typeof key === 'string' && isConcerned(key, courseId, about));
