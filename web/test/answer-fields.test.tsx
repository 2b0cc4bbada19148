/** @jest-environment jsdom */
import { afterEach, describe, expect, it } from '@jest/globals';
import { cleanup, screen } from '@testing-library/react';
import { useState } from 'react';
import { AnswerFields, type Fields } from '../src/exercises/answer/answer-fields.js';
import { draw } from './draw.js';

afterEach(cleanup);

const choices = (...names: string[]) => names.map((value) => ({ value, text: value }));
const NONE = { value: '(none)', text: 'none of them' };

function Answered() {
  const [values, setValues] = useState<Fields>({});
  return (
    <>
      <AnswerFields
        fields={[
          { key: 'mean', label: 'mean', choices: null },
          { key: 'root', label: 'column at the root', choices: choices('weight', 'mites') },
          {
            key: 'stay',
            label: 'columns that stay',
            choices: [...choices('weight', 'mites', 'frames'), NONE],
            several: true,
          },
        ]}
        values={values}
        name="q1"
        onChange={setValues}
      />
      <output>{JSON.stringify(values)}</output>
    </>
  );
}

describe('the fields of an answer', () => {
  const said = () => JSON.parse(screen.getByRole('status').textContent) as Fields;

  it('take a number, one of several names, or several of them', async () => {
    const { user } = draw(<Answered />);
    await user.type(screen.getByLabelText('mean'), '0.5');
    await user.click(screen.getByRole('radio', { name: 'weight' }));
    await user.click(screen.getByRole('radio', { name: 'mites' }));
    // In the order in which they are shown, whichever is chosen first.
    await user.click(screen.getByRole('checkbox', { name: 'frames' }));
    await user.click(screen.getByRole('checkbox', { name: 'weight' }));
    expect(said()).toEqual({ mean: '0.5', root: 'mites', stay: 'weight; frames' });
    await user.click(screen.getByRole('checkbox', { name: 'frames' }));
    expect(said()['stay']).toBe('weight');
  });

  it('that take several have none of them as a choice, which undoes the others', async () => {
    const { user } = draw(<Answered />);
    await user.click(screen.getByRole('checkbox', { name: 'frames' }));
    await user.click(screen.getByRole('checkbox', { name: 'none of them' }));
    expect(said()['stay']).toBe('(none)');
    expect(screen.getByRole('checkbox', { name: 'frames' })).toHaveProperty('checked', false);
    await user.click(screen.getByRole('checkbox', { name: 'mites' }));
    expect(said()['stay']).toBe('mites');
  });
});
