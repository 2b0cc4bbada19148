import { SieveError } from '../../foundation/errors.js';
import { columnNamed } from '../../data/table/table.js';
import { pointInTime, splitByTime, timelineOf } from '../algorithms/time.js';
import { PART_NAMES } from '../parts/part-names.js';
import { weightsOf } from '../parts/parts.js';
import { partsFollowTime } from './invariants.js';
import { SIZES, sizes, sizesSentence, TWO_PARTS } from './sizes.js';
import { splitter, type SplitMethod } from './splitter.js';

const time: SplitMethod = {
  name: 'time',
  id: 'time@1',
  title: 'by time',
  isRandom: false,
  needs: ['time'],
  chosenBy: ['time'],
  invariants: [partsFollowTime],
  assign: ({ table, plan, rows, parts }) => {
    const column = columnNamed(table, plan.time ?? '');
    const timeline = timelineOf(column, rows);
    if (plan.cutOff !== undefined && plan.parts.length !== 2)
      throw new SieveError('split-plan', 'A cut-off makes exactly two parts.', { field: 'cut-off' });
    const cuts = plan.cutOff === undefined ? null : [pointInTime(plan.cutOff, column)];
    splitByTime(rows, timeline, weightsOf(plan.parts, rows.length), cuts, plan.gap ?? 0, parts);
    const empty = plan.parts.find((_, part) => cuts !== null && !rows.some((row) => parts[row] === part));
    if (empty)
      throw new SieveError('too-few-rows', `With the cut-off ${plan.cutOff}, ${empty.name} has no rows.`, {
        field: 'cut-off',
      });
  },
};

export const byTime = splitter({
  key: 'time',
  title: 'in order of time',
  about:
    'The earliest rows are for training, the latest are held out; rows of one time stay together. A gap leaves out what lies shortly before a later part: days for dates, units of the column for numbers.',
  isRandom: false,
  holdsOut: 'plan',
  parameters: {
    ...SIZES,
    time: { type: 'column', label: 'the column of time', of: ['time', 'number'] },
    gap: { type: 'number', label: 'gap', min: 0, start: 0 },
  },
  sentence: (values) => `${sizesSentence(values)}, in order of {time} with a gap of {gap}.`,
  methods: [time],
  ask: (table, values) => ({
    table,
    parts: PART_NAMES,
    plan: { method: 'time', parts: sizes(values), seed: 0, time: values.time, gap: values.gap },
  }),
});

export const atCutOff = splitter({
  key: 'cut-off',
  title: 'at a point in time',
  about: 'Everything from a date (or a number) on is held out, everything before it is for training.',
  isRandom: false,
  holdsOut: 'plan',
  parameters: {
    time: { type: 'column', label: 'the column of time', of: ['time', 'number'] },
    cutOff: { type: 'text', label: 'the first time that is held out', start: '' },
    gap: { type: 'number', label: 'gap', min: 0, start: 0 },
  },
  sentence: () =>
    'Hold out the rows whose {time} is {cutOff} or later, and keep the earlier ones for training with a gap of {gap}.',
  methods: [],
  ask: (table, { time, cutOff, gap }) => ({
    table,
    parts: TWO_PARTS.names,
    plan: { method: 'time', parts: TWO_PARTS.sizes, seed: 0, time, cutOff: cutOff.trim(), gap },
  }),
});
