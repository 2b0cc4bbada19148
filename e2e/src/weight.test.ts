import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { setDemoStage, type DemoStage } from './demo-stage.js';
import { Someone } from './someone.js';
import { weightOf } from './weight.js';

/** How much script a browser fetches that opens a page for the first time. */

let stage: DemoStage;
let nobody: Someone;
beforeAll(async () => {
  stage = await setDemoStage();
  nobody = await Someone.at(stage.browser, stage.program.address);
});
afterAll(() => stage.end());

/** In bytes, compressed. `docs/benchmarks.md` says what each page has, and what bounds it. */
const PAGES: [string, () => Someone, () => string, string, number][] = [
  ['the page to sign in', () => nobody, () => '/', 'I am new here', 150_000],
  ['a student’s exercises', () => stage.tamsin, () => `${stage.course}/exercises`, 'Which colonies', 150_000],
  ['a student’s sheet', () => stage.tamsin, () => stage.exercise, 'Receipt of your', 220_000],
  ['the desk Look', () => stage.ines, () => `${stage.dataSet}/look`, '1 to 14 of', 220_000],
  ['the desk Prepare', () => stage.ines, () => `${stage.dataSet}/prepare`, 'Step', 220_000],
  ['the desk Split', () => stage.ines, () => `${stage.dataSet}/split`, 'What follows from it', 220_000],
  ['the desk Try', () => stage.ines, () => `${stage.dataSet}/try`, 'What the run shows', 390_000],
  ['the desk Release', () => stage.ines, () => `${stage.dataSet}/release`, 'Saved splits', 220_000],
  ['a class', () => stage.ines, () => `${stage.exercise}/submissions`, 'Return to students', 300_000],
  ['the gradebook', () => stage.ines, () => `${stage.course}/gradebook`, 'A first try', 190_000],
];

describe('the script of a page that is opened for the first time', () => {
  it.each(PAGES)('%s', async (_, who, path, isThere, most) => {
    const { script, files } = await weightOf(who(), path(), isThere);
    // More than nothing: a page whose scripts came from a cache would always be light enough.
    expect(script).toBeGreaterThan(100_000);
    expect(script).toBeLessThan(most);
    const large = files.filter(({ type, bytes }) => type === 'Script' && bytes > 1000);
    expect(new Set(large.map(({ encoding }) => encoding))).toEqual(new Set(['br']));
  });
});

describe('the files of a page', () => {
  it('are kept for good, come as gzip to who takes nothing else, and the first fonts are asked for at once', async () => {
    const { address } = stage.program;
    const page = await (await fetch(address)).text();
    const fonts = [...page.matchAll(/<link rel="preload" as="font"[^>]*href="([^"]+)"/g)];
    expect(fonts).toHaveLength(2);
    const [, script = ''] = /<script type="module"[^>]*src="([^"]+)"/.exec(page) ?? [];
    for (const [accepted, sent] of [
      ['gzip, br', 'br'],
      ['gzip', 'gzip'],
      ['identity', null],
    ] as const) {
      const answer = await fetch(`${address}${script}`, { headers: { 'accept-encoding': accepted } });
      expect(answer.status).toBe(200);
      expect(answer.headers.get('cache-control')).toBe('public, max-age=31536000, immutable');
      expect(answer.headers.get('content-encoding')).toBe(sent);
      expect(answer.headers.get('content-type')).toMatch(/javascript/);
      await answer.body?.cancel();
    }
    for (const [, font = ''] of fonts) expect((await fetch(`${address}${font}`)).status).toBe(200);
    expect((await fetch(address)).headers.get('cache-control')).toBe('no-cache');
  });
});
