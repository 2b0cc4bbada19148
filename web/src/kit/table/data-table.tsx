import { Box } from '@chakra-ui/react';
import { writeSpreadsheetCsv } from '@modest-sieve/core/data';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { TextAction } from '../form/action.js';
import { saveFile } from '../form/save-file.js';
import { nextSorting, sortedRows, sortingFrom, sortingText } from './sorting.js';

/** Rows above which only those in sight are drawn. */
const MANY = 100;
const ROW_HEIGHT = 34;

export interface DataColumn<R> {
  readonly key: string;
  readonly heading: string;
  /** The heading in full, where it is shortened. */
  readonly title?: string;
  readonly numeric?: boolean;
  /** What the rows are sorted by, and what is exported. */
  readonly value: (row: R) => number | string | null;
  readonly cell: (row: R) => ReactNode;
}

interface DataTableProps<R> {
  readonly label: string;
  readonly columns: readonly DataColumn<R>[];
  readonly rows: readonly R[];
  readonly keyOf: (row: R) => string;
  /** Name of the file that is exported, without its ending. */
  readonly file: string;
  /** Parameter of the address that the sorting is in. */
  readonly parameter?: string;
  readonly isChosen?: (row: R) => boolean;
  /** Lines under the rows, such as a mean: a heading, and a text for each further column. */
  readonly footer?: readonly { readonly heading: string; readonly texts: readonly string[] }[];
}

/**
 * A table that is sorted by its headings and exported as it is shown. Headings and first column stay in sight; of very
 * many rows only those in sight are drawn.
 */
export function DataTable<R>({
  label,
  columns,
  rows,
  keyOf,
  file,
  parameter = 'sort',
  isChosen,
  footer = [],
}: DataTableProps<R>) {
  const [search, setSearch] = useSearchParams();
  const scroller = useRef<HTMLDivElement>(null);
  const sorting = sortingFrom(
    search.get(parameter),
    columns.map(({ key }) => key),
  );
  const by = columns.find(({ key }) => key === sorting?.key);
  const shown = sorting && by ? sortedRows(rows, by.value, sorting.largestFirst) : rows;
  const isLong = shown.length > MANY;
  // No compiler memoises this component.
  // oxlint-disable-next-line react/incompatible-library
  const { getVirtualItems, getTotalSize } = useVirtualizer({
    count: isLong ? shown.length : 0,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 20,
  });
  const items = getVirtualItems();
  const above = isLong ? (items[0]?.start ?? 0) : 0;
  const below = isLong ? getTotalSize() - (items.at(-1)?.end ?? 0) : 0;
  const inSight = isLong
    ? items.flatMap(({ index }) => {
        const row = shown[index];
        return row === undefined ? [] : [{ row, index }];
      })
    : shown.map((row, index) => ({ row, index }));
  const sortBy = (key: string) => {
    const next = new URLSearchParams(search);
    const sorted = nextSorting(sorting, key);
    if (sorted) next.set(parameter, sortingText(sorted));
    else next.delete(parameter);
    setSearch(next, { replace: true });
  };
  const save = () =>
    saveFile(
      `${file}.csv`,
      writeSpreadsheetCsv(
        columns.map(({ heading, title }) => title ?? heading),
        shown.map((row) => columns.map(({ value }) => value(row))),
      ),
      'text/csv',
    );
  return (
    <>
      <Box
        ref={scroller}
        className="data-table"
        overflow="auto"
        maxH={isLong ? '70vh' : undefined}
        position="relative"
        tabIndex={0}
        role="region"
        aria-label={label}
        css={LOOK}
      >
        <table aria-label={label} aria-rowcount={shown.length + 1}>
          <thead>
            <tr>
              {columns.map(({ key, heading, title, numeric }) => {
                const now = sorting?.key === key ? sorting : null;
                return (
                  <th
                    key={key}
                    scope="col"
                    className={numeric ? 'numeric' : undefined}
                    aria-sort={now ? (now.largestFirst ? 'descending' : 'ascending') : 'none'}
                  >
                    <button type="button" title={title} onClick={() => sortBy(key)}>
                      {heading}
                      <span aria-hidden>{now ? (now.largestFirst ? ' ↓' : ' ↑') : ''}</span>
                    </button>
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            <Gap height={above} columns={columns.length} />
            {inSight.map(({ row, index }) => (
              <tr
                key={keyOf(row)}
                aria-rowindex={index + 2}
                className={isChosen?.(row) ? 'chosen' : undefined}
              >
                {columns.map(({ key, numeric, cell }) => (
                  <td key={key} className={numeric ? 'numeric' : undefined}>
                    {cell(row)}
                  </td>
                ))}
              </tr>
            ))}
            <Gap height={below} columns={columns.length} />
          </tbody>
          {footer.length === 0 ? null : (
            <tfoot>
              {footer.map(({ heading, texts }) => (
                <tr key={heading}>
                  <th scope="row">{heading}</th>
                  {columns.slice(1).map(({ key, numeric }, i) => (
                    <td key={key} className={numeric ? 'numeric' : undefined}>
                      {texts[i]}
                    </td>
                  ))}
                </tr>
              ))}
            </tfoot>
          )}
        </table>
      </Box>
      <Box mt={2} fontSize="13.5px">
        <TextAction onClick={save}>Export this table as CSV</TextAction>
      </Box>
    </>
  );
}

/** Room of rows that are not drawn. */
const Gap = ({ height, columns }: { height: number; columns: number }) =>
  height > 0 ? (
    <tr aria-hidden>
      <td colSpan={columns} style={{ height, padding: 0, border: 0 }} />
    </tr>
  ) : null;

/** For the whole table at once: a style for each of many thousand cells takes seconds. */
const LOOK = {
  '& table': { width: '100%', fontSize: '13.5px', borderCollapse: 'separate', borderSpacing: 0 },
  '& th, & td': { padding: '6px 16px 6px 0', textAlign: 'left', borderBottom: '1px solid var(--chakra-colors-rule)' },
  '& thead th': {
    position: 'sticky',
    top: 0,
    zIndex: 2,
    background: 'var(--chakra-colors-paper)',
    borderColor: 'var(--chakra-colors-ink)',
    fontSize: '12.5px',
    verticalAlign: 'bottom',
  },
  '& thead button': {
    fontWeight: 600,
    color: 'var(--chakra-colors-quiet)',
    cursor: 'pointer',
    textAlign: 'inherit',
    maxWidth: '12ch',
    minWidth: 0,
    whiteSpace: 'normal',
    // Two lines of a title; the whole of it where somebody looks for it.
    display: '-webkit-box',
    WebkitBoxOrient: 'vertical',
    WebkitLineClamp: 2,
    overflow: 'hidden',
  },
  '& thead .numeric button': { marginLeft: 'auto', minWidth: '8ch' },
  '& thead button:hover, & thead button:focus-visible': {
    WebkitLineClamp: 'none',
    color: 'var(--chakra-colors-accent)',
  },
  '& tr > :first-of-type': {
    position: 'sticky',
    left: 0,
    zIndex: 1,
    background: 'var(--chakra-colors-paper)',
    fontWeight: 700,
    whiteSpace: 'nowrap',
  },
  '& thead tr > :first-of-type': { zIndex: 3 },
  '& .numeric': { textAlign: 'right', whiteSpace: 'nowrap', fontVariantNumeric: 'tabular-nums' },
  '& tfoot th, & tfoot td': { color: 'var(--chakra-colors-quiet)', fontWeight: 400, border: 0 },
  '& tr.chosen > *': { background: 'var(--chakra-colors-sheet)' },
} as const; // prettier-ignore
