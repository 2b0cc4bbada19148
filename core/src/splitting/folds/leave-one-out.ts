import { at } from '../../foundation/numbers.js';
import { columnNamed } from '../../data/table/table.js';
import { countGroups } from '../algorithms/group-counts.js';
import { foldSplitter, type FoldMethod } from './fold-splitter.js';
import { everyRowIsTested, groupsStayWhole, sizesDifferByOne } from './invariants.js';
import { allButTested, tooFewGroups } from './made-folds.js';

const leaveOneOut: FoldMethod = {
  name: 'leave-one-out',
  id: 'leave-one-out@1',
  title: 'of single rows',
  needs: [],
  isRandom: false,
  chosenBy: null,
  invariants: [everyRowIsTested, sizesDifferByOne],
  make: ({ table, rows }) => {
    const fold = new Int32Array(table.rowCount).fill(-1);
    rows.forEach((row, i) => {
      fold[row] = i;
    });
    return allButTested(rows, rows.length, [fold]);
  },
};

const leaveOneGroupOut: FoldMethod = {
  name: 'leave-one-group-out',
  id: 'leave-one-group-out@1',
  title: 'of single groups',
  needs: ['group'],
  isRandom: false,
  chosenBy: null,
  invariants: [everyRowIsTested, groupsStayWhole],
  make: ({ table, plan, rows }) => {
    const { groups, present } = countGroups(rows, columnNamed(table, plan.group ?? ''), null);
    if (present.length < 2) throw tooFewGroups(present.length, plan.group ?? '', 2);
    const foldOf = new Map(present.map((g, fold) => [g, fold]));
    const fold = new Int32Array(table.rowCount).fill(-1);
    for (const row of rows) fold[row] = foldOf.get(at(groups.codes, row)) ?? -1;
    return allButTested(rows, present.length, [fold]);
  },
};

export const oneGroupAtATime = foldSplitter({
  key: 'leave-one-group-out',
  title: 'one group at a time',
  about: 'Each fold tests the rows of one group and trains on all others.',
  parameters: { group: { type: 'column', label: 'group by' } },
  sentence: () => 'Test the rows of one {group} at a time, and train on all others.',
  methods: [leaveOneGroupOut],
  ask: ({ group }) => ({ method: 'leave-one-group-out', seed: 0, group }),
});

export const oneRowAtATime = foldSplitter({
  key: 'leave-one-out',
  title: 'one row at a time',
  about: 'As many folds as rows: each tests one of them.',
  parameters: {},
  sentence: () => 'Test one row at a time, and train on all others.',
  methods: [leaveOneOut],
  ask: () => ({ method: 'leave-one-out', seed: 0 }),
});
