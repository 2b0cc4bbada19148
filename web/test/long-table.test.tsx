/** @jest-environment jsdom */
import { afterEach, describe, expect, it } from '@jest/globals';
import { cleanup, createEvent, fireEvent, screen } from '@testing-library/react';
import { LongTable } from '../src/kit/table/long-table.js';
import { draw } from './draw.js';

afterEach(cleanup);

const TOTAL = 1_000_000;
const COLUMNS = [
  { name: 'hive', numeric: false },
  { name: 'frames', numeric: true },
];

function drawTable(total = TOTAL) {
  const seen: number[] = [];
  const rowAt = (place: number) =>
    place % 7 === 6
      ? { number: place + 1, cells: ['two\nlines', null] }
      : { number: place + 1, cells: [`h${place}`, String(place % 10)] };
  const see = (from: number, to: number) => {
    seen.push(from, to);
  };
  // Of a document that is never laid out, scrolling is what the table asks for.
  Element.prototype.scrollTo = function scrollTo(this: Element, options?: number | ScrollToOptions) {
    if (typeof options === 'object') fireEvent.scroll(this, { target: { scrollTop: options.top } });
  };
  const { user } = draw(<LongTable label="Rows" columns={COLUMNS} rows={{ total, rowAt, see }} />);
  return { user, seen, table: screen.getByRole('grid', { name: 'Rows' }) };
}

const copied = (table: HTMLElement): string => {
  let text = '';
  const event = createEvent.copy(table);
  Object.defineProperty(event, 'clipboardData', {
    value: { setData: (_: string, data: string) => (text = data) },
  });
  fireEvent(table, event);
  return text;
};

describe('a table of a million rows', () => {
  it('draws and fetches what is in sight, and says how long it is', () => {
    const { table, seen } = drawTable();
    expect(table.getAttribute('aria-rowcount')).toBe(String(TOTAL + 1));
    expect(screen.getAllByRole('row').length).toBeLessThan(20);
    expect(Math.max(...seen)).toBeLessThan(20);
    expect(screen.getByRole('status').textContent).toContain('1 to 14 of 1,000,000');
  });

  it('is gone through by keyboard to its last cell', async () => {
    const { user, table, seen } = drawTable();
    await user.click(screen.getByText('h0'));
    table.focus();
    await user.keyboard('{ArrowDown}{ArrowRight}');
    const active = () => document.getElementById(table.getAttribute('aria-activedescendant') ?? '');
    expect(active()?.textContent).toBe('1');
    await user.keyboard('{Control>}{End}{/Control}');
    expect(seen.at(-1)).toBe(TOTAL);
    expect(active()?.textContent).toBe(String((TOTAL - 1) % 10));
    await user.keyboard('{Control>}{Home}{/Control}');
    expect(active()?.textContent).toBe('h0');
  });

  it('copies chosen cells as a spreadsheet takes them', async () => {
    const { user, table } = drawTable();
    await user.click(screen.getByText('h5'));
    table.focus();
    await user.keyboard('{Shift>}{ArrowDown}{ArrowRight}{/Shift}');
    expect(copied(table)).toBe('h5\t5\n"two\nlines"\t');
    expect(screen.getByRole('status').textContent).toContain('Copied 2 × 2 cells');
  });

  it('that has no row says so', () => {
    drawTable(0);
    expect(screen.getByRole('status').textContent).toBe('No row matches.');
  });
});
