import { Box, chakra, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import { useEffect, useId, useRef, useState, type KeyboardEvent } from 'react';

const ROW = 28;
const HEIGHT = 15 * ROW;
/** Browsers draw no element that is higher than some tens of millions of pixels: beyond this a pixel is several rows. */
const LONGEST = 8_000_000;

interface Place {
  readonly row: number;
  readonly column: number;
}

interface Rows {
  readonly total: number;
  /** A row's number in the table and its cells; null while it is on its way. */
  readonly rowAt: (
    place: number,
  ) => { readonly number: number; readonly cells: readonly (string | null)[] } | null;
  /** Called with the rows in sight, so that they are fetched. */
  readonly see: (from: number, to: number) => void;
}

/**
 * A table of any length of which only what is in sight is drawn. Arrows move a cell, Shift widens a choice of cells,
 * Ctrl+C copies it as a spreadsheet takes it.
 */
export function LongTable({
  label,
  columns,
  rows: { total, rowAt, see },
}: {
  label: string;
  columns: readonly { readonly name: string; readonly numeric: boolean }[];
  rows: Rows;
}) {
  const id = useId();
  const scroller = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  const [active, setActive] = useState<Place>({ row: 0, column: 0 });
  const [anchor, setAnchor] = useState<Place>(active);
  const [said, setSaid] = useState('');
  const inSight = Math.min(total, Math.floor(HEIGHT / ROW) - 1);
  const hidden = total - inSight;
  const reach = Math.min(hidden * ROW, LONGEST);
  const first = hidden === 0 ? 0 : Math.min(hidden, Math.round((top / reach) * hidden));
  useEffect(() => see(first, first + inSight), [see, first, inSight]);

  const from = { row: Math.min(active.row, anchor.row), column: Math.min(active.column, anchor.column) };
  const to = { row: Math.max(active.row, anchor.row), column: Math.max(active.column, anchor.column) };
  const isChosen = (row: number, column: number) =>
    row >= from.row && row <= to.row && column >= from.column && column <= to.column;

  const go = (place: Place, widen: boolean) => {
    const next = {
      row: Math.max(0, Math.min(total - 1, place.row)),
      column: Math.max(0, Math.min(columns.length - 1, place.column)),
    };
    setActive(next);
    if (!widen) setAnchor(next);
    setSaid('');
    const wanted = next.row < first ? next.row : next.row >= first + inSight ? next.row - inSight + 1 : first;
    if (wanted !== first && hidden > 0) scroller.current?.scrollTo({ top: (wanted / hidden) * reach });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const { row, column } = active;
    const far = event.ctrlKey || event.metaKey;
    const moves: Record<string, Place> = {
      ArrowUp: { row: row - 1, column },
      ArrowDown: { row: row + 1, column },
      ArrowLeft: { row, column: column - 1 },
      ArrowRight: { row, column: column + 1 },
      PageUp: { row: row - inSight, column },
      PageDown: { row: row + inSight, column },
      Home: { row: far ? 0 : row, column: 0 },
      End: { row: far ? total - 1 : row, column: columns.length - 1 },
    };
    const move = moves[event.key];
    if (!move) return;
    event.preventDefault();
    go(move, event.shiftKey);
  };
  const copy = (event: React.ClipboardEvent) => {
    const lines: string[] = [];
    for (let row = from.row; row <= to.row; row++) {
      const cells = rowAt(row)?.cells;
      if (!cells) {
        setSaid('Some of these rows are not here any more: choose fewer.');
        return;
      }
      lines.push(
        cells
          .slice(from.column, to.column + 1)
          .map(tabbed)
          .join('\t'),
      );
    }
    event.clipboardData.setData('text/plain', lines.join('\n'));
    event.preventDefault();
    setSaid(`Copied ${cellsText(from, to)}.`);
  };
  const cellId = (row: number, column: number) => `${id}-${row}-${column}`;

  return (
    <>
      <Box
        ref={scroller}
        h={`${Math.min(HEIGHT, (total + 1) * ROW + 16)}px`}
        overflow="auto"
        borderBottom="1px solid"
        borderColor="rule"
        position="relative"
        onScroll={(event) => setTop(event.currentTarget.scrollTop)}
      >
        <Box h={`${reach + Math.min(HEIGHT, (inSight + 1) * ROW)}px`} minW="max-content">
          <chakra.table
            role="grid"
            aria-label={label}
            aria-rowcount={total + 1}
            aria-colcount={columns.length + 1}
            aria-activedescendant={total > 0 ? cellId(active.row, active.column) : undefined}
            tabIndex={0}
            position="sticky"
            top={0}
            minW="100%"
            fontSize="13.5px"
            css={{ borderCollapse: 'collapse' }}
            onKeyDown={onKeyDown}
            onCopy={copy}
          >
            <thead>
              <tr aria-rowindex={1}>
                {['row', ...columns.map(({ name }) => name)].map((text, i) => (
                  <chakra.th
                    key={text + String(i)}
                    scope="col"
                    h={`${ROW}px`}
                    pr={4}
                    textAlign={i === 0 || columns[i - 1]?.numeric ? 'right' : 'left'}
                    fontSize="12.5px"
                    fontWeight={600}
                    color="quiet"
                    bg="paper"
                    borderBottom="1px solid"
                    borderColor="ink"
                    whiteSpace="nowrap"
                  >
                    {text}
                  </chakra.th>
                ))}
              </tr>
            </thead>
            <tbody>
              {Array.from({ length: inSight }, (_, i) => {
                const row = first + i;
                const shown = rowAt(row);
                return (
                  <tr key={row} aria-rowindex={row + 2}>
                    <chakra.th
                      scope="row"
                      h={`${ROW}px`}
                      pr={4}
                      textAlign="right"
                      fontWeight={400}
                      color="quiet"
                      className="figures"
                    >
                      {shown ? count(shown.number) : '…'}
                    </chakra.th>
                    {columns.map(({ name, numeric }, column) => {
                      const cell = shown ? shown.cells[column] : '';
                      const isActive = row === active.row && column === active.column;
                      return (
                        <chakra.td
                          key={name}
                          id={cellId(row, column)}
                          aria-selected={isChosen(row, column)}
                          h={`${ROW}px`}
                          pr={4}
                          maxW="260px"
                          overflow="hidden"
                          textOverflow="ellipsis"
                          whiteSpace="nowrap"
                          cursor="cell"
                          textAlign={numeric ? 'right' : 'left'}
                          color={cell === null ? 'quiet' : undefined}
                          className={numeric ? 'figures' : undefined}
                          bg={isChosen(row, column) ? 'sheet' : undefined}
                          boxShadow={isActive ? 'inset 0 0 0 1.5px var(--chakra-colors-accent)' : undefined}
                          onMouseDown={(event) => go({ row, column }, event.shiftKey)}
                          onMouseEnter={(event) => event.buttons === 1 && go({ row, column }, true)}
                        >
                          {cell ?? 'missing'}
                        </chakra.td>
                      );
                    })}
                  </tr>
                );
              })}
            </tbody>
          </chakra.table>
        </Box>
      </Box>
      <Text fontSize="13.5px" color="quiet" mt={2} role="status">
        {total === 0
          ? 'No row matches.'
          : `${count(first + 1)} to ${count(first + inSight)} of ${count(total)}`}
        {said === '' ? '' : `. ${said}`}
      </Text>
    </>
  );
}

const cellsText = (from: Place, to: Place): string => {
  const [rows, columns] = [to.row - from.row + 1, to.column - from.column + 1];
  return rows * columns === 1 ? 'one cell' : `${count(rows)} × ${count(columns)} cells`;
};

/** A cell as a spreadsheet takes it from the clipboard: in quotation marks where it holds a tab or a line break. */
const tabbed = (cell: string | null): string =>
  cell === null ? '' : /[\t\n\r"]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell;
