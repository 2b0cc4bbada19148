import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, tableOf } from '../../../test/files.js';
import { labelsOf } from './labels.js';
import { checkRoles, suggestTask, type Roles } from './roles.js';
import { columnNamed } from './table.js';

const roles: Roles = {
  target: 'y',
  task: 'binary',
  positive: 'yes',
  identifier: 'id',
  group: 'g',
  time: null,
  weight: null,
  withheld: ['after'],
};
const table = tableOf('id,g,x,after,y,z\na,1,1,1,yes,p\nb,1,2,2,no,q\nc,2,3,3,yes,r\n');

describe('the task that a target suggests', () => {
  it('is binary for two values, 0 and 1 too; multi-class for texts; regression for numbers', () => {
    expect(suggestTask(columnNamed(tableOf('y\n0\n1\n1\n'), 'y'))).toBe('binary');
    expect(suggestTask(columnNamed(iris(), 'target'))).toBe('multiclass');
    expect(suggestTask(columnNamed(diabetes(), 'target'))).toBe('regression');
  });
});

describe('labels', () => {
  it('are in order of value where all are numbers, else by code unit', () => {
    expect(labelsOf(columnNamed(tableOf('y\n10\n9\n2\n'), 'y')).labels).toEqual(['2', '9', '10']);
    expect(labelsOf(columnNamed(tableOf('y\nb\nB\na\n'), 'y')).labels).toEqual(['B', 'a', 'b']);
  });
});

describe('roles', () => {
  const judge = (given: Roles) => checkRoles(table.columns, columnNamed(table, given.target), given);

  it('that fit the table are accepted', () => {
    expect(() => judge(roles)).not.toThrow();
  });

  it.each([
    [{ target: 'nothing' }, 'There is no column “nothing”.'],
    [{ group: 'nowhere' }, 'There is no column “nowhere”.'],
    [{ identifier: 'y' }, 'y is the target and cannot be anything else as well.'],
    [{ withheld: ['y'] }, 'y is the target and cannot be anything else as well.'],
    [{ withheld: ['id'] }, 'id names the rows, so students need it.'],
    [{ group: 'id' }, 'id names single rows, so it cannot group them.'],
    [{ positive: 'maybe' }, 'The positive class is one of “no” and “yes”.'],
    [{ positive: null }, 'The positive class is one of “no” and “yes”.'],
    [{ target: 'z' }, 'z has 3 classes, not two.'],
    [
      { task: 'regression', positive: null },
      'y is not a column of numbers: it cannot be predicted as a number.',
    ],
    [{ time: 'y' }, 'y is the target and cannot be anything else as well.'],
    [{ time: 'z', group: null }, 'z holds neither dates nor numbers, so time cannot run in its order.'],
    [{ weight: 'z' }, 'z holds no numbers, so it cannot weigh rows.'],
    [{ weight: 'after', time: 'after' }, 'after weighs the rows and cannot be anything else as well.'],
    [{ task: 'multiclass' }, 'Only a target with two classes has a positive one.'],
  ] as const)('%j are refused', (over, message) => {
    expect(() => judge({ ...roles, ...over })).toThrow(message);
  });
});
