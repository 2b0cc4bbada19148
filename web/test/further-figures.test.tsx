/** @jest-environment jsdom */
import { afterEach, expect, it } from '@jest/globals';
import { cleanup, screen } from '@testing-library/react';
import type { FurtherFigure } from '@modest-sieve/core/assessment';
import { useState } from 'react';
import { DATA } from '../src/exercises/common/data-of-tests.js';
import { FurtherFigures } from '../src/exercises/kinds/further-figures.js';
import { draw } from './draw.js';

afterEach(cleanup);

function Composed({ heard }: { heard: (readonly FurtherFigure[])[] }) {
  const [further, setFurther] = useState<readonly FurtherFigure[]>([]);
  const change = (next: readonly FurtherFigure[]) => {
    heard.push(next);
    setFurther(next);
  };
  return <FurtherFigures further={further} data={DATA} onChange={change} />;
}

it('further figures are added, put into words and removed', async () => {
  const heard: (readonly FurtherFigure[])[] = [];
  const { user } = draw(<Composed heard={heard} />);
  await user.click(screen.getByText('Add a figure'));
  await user.click(screen.getByText('Add a figure'));
  // The second is begun with another metric than the first.
  expect(new Set(heard.at(-1)?.map(({ metric }) => metric)).size).toBe(2);
  const [first] = screen.getAllByLabelText<HTMLSelectElement>('which rows');
  await user.selectOptions(first as HTMLSelectElement, 'gap');
  expect(heard.at(-1)?.[0]).toMatchObject({
    on: { kind: 'gap', values: { column: 'weight' } },
    // A third of the width of the metric's own line.
    scheme: { nothing: 0.35, most: 0.12, all: 0.035 },
  });
  // The target is no column of subgroups, and a gap is the better the smaller it is.
  const [column] = screen.getAllByLabelText<HTMLSelectElement>('the column of the subgroups');
  expect([...(column?.options ?? [])].map(({ value }) => value)).not.toContain('survived');
  expect(screen.getByLabelText('Further figure 1').textContent).toContain('no marks from');
  await user.selectOptions(first as HTMLSelectElement, 'where');
  await user.type(screen.getByLabelText('the condition'), 'weight > 3');
  expect(heard.at(-1)?.[0]?.on).toEqual({ kind: 'where', values: { condition: 'weight > 3' } });
  const before = heard.at(-1)?.[1];
  await user.click(screen.getAllByText('Remove')[0] as HTMLElement);
  expect(heard.at(-1)).toEqual([before]);
});

it('points that cannot be are said at once', async () => {
  const heard: (readonly FurtherFigure[])[] = [];
  const { user } = draw(<Composed heard={heard} />);
  await user.click(screen.getByText('Add a figure'));
  const most = screen.getByLabelText<HTMLInputElement>('score for most');
  await user.clear(most);
  await user.type(most, '0.99');
  expect(screen.getByText(/The points must get higher from nothing to most to all/)).toBeTruthy();
});
