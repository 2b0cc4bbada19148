import type { Schemas } from './schemas.js';
import { courseWithTable } from './class.js';
import { Visitor } from './visitor.js';
import { type World } from './world.js';

export const DAYS = 60;
const day = (i: number) => new Date(Date.UTC(2026, 0, 1 + i)).toISOString().slice(0, 10);

const TABLE = `id,day,hive,weight,sure,lost\n${Array.from(
  { length: DAYS },
  (_, i) => `h${i},${day(i)},${'ABCDEFG'[i % 7]},${(i * 7) % 31},${1 + (i % 2)},${i % 3 ? 'no' : 'yes'}`,
).join('\n')}\n`;

export const ROLES = {
  target: 'lost',
  task: 'binary',
  positive: 'yes',
  identifier: 'id',
  group: 'hive',
  time: 'day',
  weight: 'sure',
  withheld: [],
};

/** A table of a hive a day, with its roles, in a course of its own. */
export async function tableOfHives(world: World) {
  const ada = await new Visitor(world.address).signUp('Ada Instructor');
  const { course, dataSet } = await courseWithTable(ada, 'hives.csv', TABLE);
  await ada.call('PUT', `${dataSet}/roles`, ROLES);
  const detail = async () => (await ada.call<Schemas['DataSetDetail']>('GET', dataSet)).body;
  return { ada, course, dataSet, detail };
}
