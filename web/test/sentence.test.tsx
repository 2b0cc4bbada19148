/** @jest-environment jsdom */
import { afterEach, describe, expect, it } from '@jest/globals';
import { cleanup, screen } from '@testing-library/react';
import { useState } from 'react';
import { PlanChoice, PlanNumber, PlanSentence } from '../src/kit/sentence/plan-sentence.js';
import { PlanTexts } from '../src/kit/sentence/plan-text.js';
import { draw } from './draw.js';

afterEach(cleanup);

function Share({ heard, start = 70 }: { heard: number[]; start?: number }) {
  const [value, setValue] = useState(start);
  return (
    <PlanNumber
      label="training share"
      value={value}
      min={1}
      max={99}
      step={1}
      onChange={(next) => {
        heard.push(next);
        setValue(next);
      }}
    />
  );
}

describe('a number in a sentence', () => {
  const field = () => screen.getByLabelText<HTMLInputElement>('training share');

  it('counts only where it is one in range, and says else what is wrong', async () => {
    const heard: number[] = [];
    const { user } = draw(<Share heard={heard} />);
    await user.clear(field());
    expect(screen.getByRole('alert').textContent).not.toBe('');
    expect(field().getAttribute('aria-invalid')).toBe('true');
    await user.type(field(), '120');
    // 1 and 12 are in range, 120 is not.
    expect(heard).toEqual([1, 12]);
    expect(screen.getByRole('alert').textContent).toContain('99');
    await user.clear(field());
    await user.type(field(), '80');
    expect(heard.at(-1)).toBe(80);
    expect(screen.queryByRole('alert')).toBeNull();
    expect(field().value).toBe('80');
  });

  it('goes up and down by its step, and no further than its range', async () => {
    const heard: number[] = [];
    const { user } = draw(<Share heard={heard} start={98} />);
    await user.click(field());
    await user.keyboard('{ArrowUp}{ArrowUp}{ArrowDown}');
    expect(heard).toEqual([99, 98]);
  });

  it('shows a value that comes from elsewhere', () => {
    const at = (value: number) => (
      <PlanNumber label="training share" value={value} onChange={() => undefined} />
    );
    const { rerender } = draw(at(70));
    rerender(at(60));
    expect(field().value).toBe('60');
  });
});

describe('a plan as a sentence', () => {
  function Plan() {
    const [by, setBy] = useState<'apiary' | 'box'>('apiary');
    const [names, setNames] = useState<readonly string[]>([]);
    return (
      <PlanSentence label="Plan">
        Keep rows of an{' '}
        <PlanChoice
          label="group"
          value={by}
          choices={[
            { value: 'apiary', text: 'apiary' },
            { value: 'box', text: 'box' },
          ]}
          onChange={setBy}
        />{' '}
        together but for <PlanTexts label="but for" values={names} none="none" onChange={setNames} />.
        <p role="status">
          {by} {names.join('|')}
        </p>
      </PlanSentence>
    );
  }

  it('has a name, and words that are chosen', async () => {
    const { user } = draw(<Plan />);
    expect(screen.getByLabelText('Plan')).toBeTruthy();
    await user.selectOptions(screen.getByLabelText('group'), 'box');
    expect(screen.getByRole('status').textContent).toContain('box');
  });

  it('takes texts by Enter, by a comma, and when the field is left; the same one once', async () => {
    const { user } = draw(<Plan />);
    const field = screen.getByLabelText('but for');
    await user.type(field, 'Hilltop{Enter}Mill,Hilltop{Enter} Weir ');
    await user.tab();
    expect(screen.getByRole('status').textContent).toBe('apiary Hilltop|Mill|Weir');
  });
});
