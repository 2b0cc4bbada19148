/** @jest-environment jsdom */
import { afterEach, describe, expect, it } from '@jest/globals';
import { cleanup, fireEvent, screen, within } from '@testing-library/react';
import { MemoryRouter, useLocation } from 'react-router';
import { DataTable, type DataColumn } from '../src/kit/table/data-table.js';
import { draw } from './draw.js';

interface Row {
  readonly name: string;
  readonly marks: number | null;
}

const COLUMNS: readonly DataColumn<Row>[] = [
  { key: 'name', heading: 'student', value: ({ name }) => name, cell: ({ name }) => name },
  {
    key: 'marks',
    heading: 'A first try',
    title: 'A first try, of 15',
    numeric: true,
    value: ({ marks }) => marks,
    cell: ({ marks }) => marks ?? '–',
  },
];

const Address = () => <output>{useLocation().search}</output>;

function shown(rows: readonly Row[], address = '/') {
  draw(
    <MemoryRouter initialEntries={[address]}>
      <DataTable label="Marks" file="marks" columns={COLUMNS} rows={rows} keyOf={({ name }) => name} />
      <Address />
    </MemoryRouter>,
  );
  return within(screen.getByRole('table', { name: 'Marks' }));
}

const names = (table: ReturnType<typeof shown>) =>
  table
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('cell')[0]?.textContent);

const ROWS = [
  { name: 'Ada', marks: 3 },
  { name: 'Ben', marks: null },
  { name: 'Cleo', marks: 12 },
];

afterEach(cleanup);

describe('a table of data', () => {
  it('is sorted by its headings, which say so, and keeps the sorting in the address', () => {
    const table = shown(ROWS);
    const heading = table.getByRole('button', { name: 'A first try' });
    fireEvent.click(heading);
    expect(names(table)).toEqual(['Ada', 'Cleo', 'Ben']);
    fireEvent.click(heading);
    expect(names(table)).toEqual(['Cleo', 'Ada', 'Ben']);
    expect(screen.getByRole('status').textContent).toBe('?sort=-marks');
    expect(heading.closest('th')?.getAttribute('aria-sort')).toBe('descending');
    fireEvent.click(heading);
    expect(names(table)).toEqual(['Ada', 'Ben', 'Cleo']);
    expect(screen.getByRole('status').textContent).toBe('');
  });

  it('comes sorted as the address says', () => {
    expect(names(shown(ROWS, '/?sort=-name'))).toEqual(['Cleo', 'Ben', 'Ada']);
  });

  it('exports what it shows, in its order, with whole titles', async () => {
    let saved: Blob | null = null;
    // jsdom makes no addresses of files.
    URL.createObjectURL = (file) => {
      saved = file as Blob;
      return '#x';
    };
    URL.revokeObjectURL = () => undefined;
    shown([...ROWS, { name: '=SUM(A1)', marks: 1 }], '/?sort=marks');
    fireEvent.click(screen.getByRole('button', { name: 'Export this table as CSV' }));
    const text = await new Promise<string>((resolve) => {
      const reader = new FileReader();
      reader.onload = () => resolve(reader.result as string);
      reader.readAsText(saved ?? new Blob());
    });
    expect(text).toBe(`"student","A first try, of 15"\n"'=SUM(A1)",1\n"Ada",3\n"Cleo",12\n"Ben",\n`);
  });

  it('draws few of very many rows, and says how many there are', () => {
    const many = Array.from({ length: 5000 }, (_, i) => ({ name: `student ${i}`, marks: i }));
    const table = shown(many);
    expect(table.getAllByRole('row').length).toBeLessThan(200);
    expect(screen.getByRole('table', { name: 'Marks' }).getAttribute('aria-rowcount')).toBe('5001');
  });
});
