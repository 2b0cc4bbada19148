import type { Browser } from 'puppeteer-core';
import { onOwnCopy } from './own-database.js';
import { startProgram, type Program } from './program.js';
import { Someone, startBrowser } from './someone.js';

export const DEMO_PASSWORD = 'hollow-lane-bees';

/** The program on a copy of the demo course, which the databases of these tests hold, with its people at windows of their own. */
export interface DemoStage {
  program: Program;
  readonly browser: Browser;
  readonly ines: Someone;
  readonly mirela: Someone;
  readonly tamsin: Someone;
  /** Addresses of pages. */
  readonly course: string;
  readonly dataSet: string;
  readonly exercise: string;
  /** A checked file of Tamsin's. */
  readonly submission: string;
  readonly end: () => Promise<void>;
}

export async function setDemoStage(): Promise<DemoStage> {
  await onOwnCopy();
  const program = await startProgram();
  const browser = await startBrowser();
  const arrive = async (name: string) => {
    const someone = await Someone.at(browser, program.address);
    await someone.signIn(`${name}@hollow-lane.example`, DEMO_PASSWORD);
    await someone.follow('Learning from hive records');
    return someone;
  };
  const [ines, mirela, tamsin] = [await arrive('ines'), await arrive('mirela'), await arrive('tamsin')];
  const course = ines.path.replace(/\/data$/, '');
  const { dataSets } = JSON.parse((await ines.fetch(`/api/v1${course}/data-sets`)).text) as {
    dataSets: { id: string }[];
  };
  await ines.follow('Exercises');
  await ines.follow('Which colonies will survive?');
  await ines.see('Audit of the pack');
  const exercise = ines.path;
  await tamsin.follow('Which colonies will survive?');
  await tamsin.see('Receipt of your first answer to question 2');
  const receipts = await tamsin.fetch(`/api/v1${exercise}/receipts`);
  // Of predictions, the latest first.
  const [latest] = (
    JSON.parse(receipts.text) as { receipts: { id: string; question: string }[] }
  ).receipts.filter(({ question }) => question === 'q1');
  const stage: DemoStage = {
    program,
    browser,
    ines,
    mirela,
    tamsin,
    course,
    dataSet: `${course}/data/${dataSets[0]?.id ?? ''}`,
    exercise,
    submission: latest?.id ?? '',
    end: async () => {
      await browser.close();
      await stage.program.stop();
    },
  };
  return stage;
}
