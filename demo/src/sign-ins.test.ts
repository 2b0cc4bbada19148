import { expect, it } from '@jest/globals';
import { signIns } from './sign-ins.js';

it('the demo names an administrator, an instructor and three students, each with a password', () => {
  const lines = signIns().trimEnd().split('\n');
  expect(lines.map((line) => line.trim().split(/\s+/).slice(0, 3))).toEqual([
    ['administrator', 'olive@hollow-lane.example', 'hollow-lane-bees'],
    ['instructor', 'ines@hollow-lane.example', 'hollow-lane-bees'],
    ['student', 'tamsin@hollow-lane.example', 'hollow-lane-bees'],
    ['student', 'corin@hollow-lane.example', 'hollow-lane-bees'],
    ['student', 'mirela@hollow-lane.example', 'hollow-lane-bees'],
  ]);
});
