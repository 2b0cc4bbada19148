/** @jest-environment jsdom */
import { afterEach, describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { Action } from '../src/kit/form/action.js';
import { ConfirmButton } from '../src/kit/form/confirm-button.js';
import { DropArea } from '../src/kit/form/drop-area.js';
import { useAction } from '../src/kit/form/use-action.js';
import { draw } from './draw.js';

afterEach(cleanup);

describe('a button for what cannot be undone', () => {
  const button = (onConfirm: () => void, busy = false) => (
    <ConfirmButton
      text="Return the exercise"
      consequence="Students see it."
      busy={busy}
      onConfirm={onConfirm}
    />
  );

  it('says first what follows, with the focus on it, and does it when it is pressed again', async () => {
    const onConfirm = jest.fn();
    const { user } = draw(button(onConfirm));
    await user.click(screen.getByRole('button', { name: 'Return the exercise' }));
    expect(onConfirm).not.toHaveBeenCalled();
    expect(document.activeElement).toBe(screen.getByText('Students see it.'));
    await user.click(screen.getByRole('button', { name: 'Return the exercise: yes' }));
    expect(onConfirm).toHaveBeenCalledTimes(1);
  });

  it('is left with the focus back where it was', async () => {
    const onConfirm = jest.fn();
    const { user } = draw(button(onConfirm));
    await user.click(screen.getByRole('button'));
    await user.click(screen.getByRole('button', { name: 'Leave it' }));
    expect(document.activeElement).toBe(screen.getByRole('button', { name: 'Return the exercise' }));
    expect(onConfirm).not.toHaveBeenCalled();
  });

  it('does nothing while it is busy', async () => {
    const onConfirm = jest.fn();
    const { user, rerender } = draw(button(onConfirm));
    await user.click(screen.getByRole('button'));
    rerender(button(onConfirm, true));
    await user.click(screen.getByRole('button', { name: 'Return the exercise: yes' }));
    expect(onConfirm).not.toHaveBeenCalled();
  });
});

describe('an action', () => {
  function Sending({ work }: { work: () => Promise<unknown> }) {
    const doing = useAction();
    return (
      <>
        <Action busy={doing.busy} onClick={() => doing.run(work)}>
          Send
        </Action>
        <p role="alert">{doing.problem?.message}</p>
      </>
    );
  }

  it('is done once at a time, and says what went wrong with it until it is tried again', async () => {
    const ends: ((how: 'well' | 'badly') => void)[] = [];
    const work = jest.fn(
      () =>
        new Promise<void>((resolve, reject) => {
          ends.push((how) => (how === 'well' ? resolve() : reject(new Error('The hive is away.'))));
        }),
    );
    const { user } = draw(<Sending work={work} />);
    const button = screen.getByRole('button');
    await user.dblClick(button);
    expect(work).toHaveBeenCalledTimes(1);
    await waitFor(() => expect(button.getAttribute('aria-busy')).toBe('true'));
    ends[0]?.('badly');
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('The hive is away.'));
    await user.click(button);
    expect(screen.getByRole('alert').textContent).toBe('');
    ends[1]?.('well');
    await waitFor(() => expect(button.getAttribute('aria-busy')).toBe('false'));
    expect(work).toHaveBeenCalledTimes(2);
  });
});

describe('an area for files', () => {
  /** Drops files, which are looked at a moment later. */
  const dropped = (dataTransfer: object) =>
    act(async () => {
      fireEvent.drop(screen.getByRole('group', { name: 'Hand in a file' }), { dataTransfer });
      await new Promise((resolve) => setTimeout(resolve, 50));
    });
  const file = (name: string) => new File(['id,x'], name, { type: 'text/csv' });

  const area = (taken: string[], { several = false, disabled = false } = {}) => (
    <DropArea
      label="Hand in a file"
      several={several}
      disabled={disabled}
      onFile={({ name }) => {
        taken.push(name);
      }}
    >
      or drop it here
    </DropArea>
  );

  it('takes one that is chosen', async () => {
    const taken: string[] = [];
    const { user } = draw(area(taken));
    await user.upload(screen.getByLabelText('Hand in a file', { selector: 'input' }), file('a.csv'));
    await waitFor(() => expect(taken).toEqual(['a.csv']));
  });

  it.each([
    [false, []],
    [true, ['a.csv', 'b.csv']],
  ])('takes several that are dropped only where that is meant: %s', async (several, wanted) => {
    const taken: string[] = [];
    draw(area(taken, { several }));
    const dataTransfer = { files: [file('a.csv'), file('b.csv')], types: ['Files'] };
    await dropped(dataTransfer);
    expect(taken).toEqual(wanted);
  });

  it('takes nothing while it is closed', async () => {
    const taken: string[] = [];
    draw(area(taken, { disabled: true }));
    const dataTransfer = { files: [file('a.csv')], types: ['Files'] };
    await dropped(dataTransfer);
    expect(taken).toEqual([]);
  });
});
