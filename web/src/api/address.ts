import type { paths } from './schema.js';

export type Path = keyof paths;
export type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';

type Operation<P extends Path, M extends Method> = NonNullable<paths[P][M]>;
type Json<C> = C extends { content: { 'application/json': infer A } } ? A : undefined;

/** Paths of the API that a method is sent to. */
export type PathOf<M extends Method> = {
  [P in Path]: Operation<P, M> extends { responses: object } ? P : never;
}[Path];

/** What the API answers to a method on a path; nothing to what has no content. */
export type AnswerOf<P extends Path, M extends Method> =
  Operation<P, M> extends { responses: infer R } ? Json<R[keyof R & (200 | 201 | 202 | 204)]> : never;

/** What a method on a path takes: JSON by its type, a form for a file, or nothing. */
export type BodyOf<P extends Path, M extends Method> =
  Operation<P, M> extends { requestBody?: infer B }
    ? [NonNullable<B>] extends [never]
      ? undefined
      : NonNullable<B> extends { content: { 'application/json': infer J } }
        ? J
        : NonNullable<B> extends { content: { 'multipart/form-data': unknown } }
          ? FormData
          : undefined
    : undefined;

type QueryOf<P extends Path> = {
  [M in Method]: Operation<P, M> extends { parameters: { query?: infer Q } } ? NonNullable<Q> : never;
}[Method];

type Names<S extends string> = S extends `${string}{${infer N}}${infer R}` ? N | Names<R> : never;
type Values<S extends string> = Readonly<Record<Names<S>, string>>;

declare const PATH: unique symbol;

/** An address of the API, of a path of it: what is answered there, and what it takes, follows from its type. */
export type Address<P extends Path = Path> = string & { readonly [PATH]: P };

/** Paths in a course, as they go on after it. */
export type InCourse = Path extends infer P
  ? P extends `/api/v1/courses/{course}${infer R}`
    ? R
    : never
  : never;
export type OfCourse<S extends InCourse> = `/api/v1/courses/{course}${S}` & Path;

type Rest<S extends string, P extends Path> = [Names<S>] extends [never]
  ? [values?: Record<string, never>, query?: QueryOf<P>]
  : [values: Values<S>, query?: QueryOf<P>];

/** The address of a path with values for its names, and a query. */
export const api = <P extends Path>(path: P, ...[values, query]: Rest<P, P>): Address<P> =>
  `${filled(path, values)}${searchOf(query)}` as Address<P>;

/** The same for the paths in a course. */
export const courseApi =
  (course: string) =>
  <S extends InCourse>(path: S, ...[values, query]: Rest<S, OfCourse<S>>): Address<OfCourse<S>> =>
    `${filled(`/api/v1/courses/{course}${path}`, { ...values, course })}${searchOf(query)}` as Address<
      OfCourse<S>
    >;

export type CourseApi = ReturnType<typeof courseApi>;

const filled = (path: string, values: Readonly<Record<string, string>> = {}): string =>
  path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(values[name] ?? ''));

/** What is undefined is left out. */
function searchOf(query: object | undefined): string {
  const pairs = Object.entries(query ?? {}).filter(
    (pair): pair is [string, string | number] => pair[1] !== undefined,
  );
  return pairs.length === 0
    ? ''
    : `?${new URLSearchParams(pairs.map(([k, v]) => [k, String(v)])).toString()}`;
}
