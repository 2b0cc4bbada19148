import { useCallback, useEffect, useRef, useState } from 'react';
import { courseApi } from '../../api/address.js';
import { useCourse } from '../../api/course.js';
import { ApiProblem, fetchAnswer, type Schemas } from '../../api/client.js';

/** A condition, the column to sort by, and which way. */
export interface RowQuery {
  readonly way: string;
  readonly where?: string;
  readonly sort?: string;
}

type Page = Schemas['RowPage'];

const PAGE = 100;
/** Pages that are held at once; those asked for longest ago are let go. */
const MOST_PAGES = 30;

export interface Row {
  readonly number: number;
  readonly cells: readonly (string | null)[];
}

interface Fetched {
  readonly base: string;
  readonly pages: ReadonlyMap<number, Page>;
  readonly total: number | null;
  readonly problem: ApiProblem | null;
}

const NOTHING = { pages: new Map<number, Page>(), total: null, problem: null };

/**
 * Rows of a table by their place, of which no more are held than what was looked at last.
 *
 * @param dataSet its address
 * @param query which rows they are, and how they are sorted
 */
export function useRowPages(dataSet: string, query: RowQuery) {
  const { id: course } = useCourse();
  const base = JSON.stringify([dataSet, query]);
  const [fetched, setFetched] = useState<Fetched>({ base, ...NOTHING });
  const asked = useRef(new Set<string>());
  const current = fetched.base === base ? fetched : { base, ...NOTHING, total: fetched.total };
  const fetchPage = useCallback(
    (page: number) => {
      // Of the rows that this function is for: those of the page may be others by now.
      const [of, chosen] = JSON.parse(base) as [string, RowQuery];
      const url = courseApi(course)(
        '/data-sets/{dataSet}/rows',
        { dataSet: of },
        { ...chosen, offset: String(page * PAGE), limit: String(PAGE) },
      );
      if (asked.current.has(url)) return;
      asked.current.add(url);
      fetchAnswer(url)
        .then((answer) =>
          setFetched((before) => {
            const held = before.base === base ? before.pages : new Map<number, Page>();
            const pages = new Map([...held, [page, answer] as const].slice(-MOST_PAGES));
            return { base, pages, total: answer.total, problem: null };
          }),
        )
        .catch((problem: unknown) => {
          if (problem instanceof ApiProblem) setFetched({ base, ...NOTHING, total: 0, problem });
        })
        .finally(() => asked.current.delete(url));
    },
    [base, course],
  );
  useEffect(() => fetchPage(0), [fetchPage]);
  const { pages } = current;
  const see = useCallback(
    (from: number, to: number) => {
      for (let page = Math.floor(from / PAGE); page * PAGE < to; page++)
        if (!pages.has(page)) fetchPage(page);
    },
    [pages, fetchPage],
  );
  const rowAt = (place: number): Row | null => {
    const page = pages.get(Math.floor(place / PAGE));
    const cells = page?.rows[place % PAGE];
    return page && cells ? { number: page.numbers[place % PAGE] ?? 0, cells } : null;
  };
  return { total: current.total, problem: current.problem, see, rowAt };
}
