import type { Schemas } from '../api/client.js';

/** Students whose answers are linked, with the pairs that link them. */
export interface Cluster<P> {
  readonly students: readonly string[];
  readonly pairs: readonly P[];
}

/**
 * Pairs of students grouped by who is linked with whom, also by way of others.
 *
 * @param pair the two students of a pair
 */
export function clustersOf<P>(
  pairs: readonly P[],
  pair: (of: P) => readonly [string, string],
): readonly Cluster<P>[] {
  let clusters: { students: Set<string>; pairs: P[] }[] = [];
  for (const one of pairs) {
    const [a, b] = pair(one);
    const linked = clusters.filter(({ students }) => students.has(a) || students.has(b));
    const joined = {
      students: new Set([...linked.flatMap(({ students }) => [...students]), a, b]),
      pairs: [...linked.flatMap((cluster) => cluster.pairs), one],
    };
    clusters = [...clusters.filter((cluster) => !linked.includes(cluster)), joined];
  }
  return clusters.map(({ students, pairs: own }) => ({ students: [...students], pairs: own }));
}

/** Whose an answer is. */
export const studentOf = (
  { lines, submissions }: Pick<Schemas['ClassView'], 'lines' | 'submissions'>,
  answer: string,
): { readonly id: string; readonly name: string } => {
  const id = submissions.find((one) => one.id === answer)?.personId ?? '';
  return { id, name: nameOf({ lines }, id) };
};

/** The name of a student. */
export const nameOf = ({ lines }: Pick<Schemas['ClassView'], 'lines'>, id: string): string =>
  lines.find(({ person }) => person.id === id)?.person.name ?? 'somebody who left the course';
