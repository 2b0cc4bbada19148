import axeCore from 'axe-core';
import {
  launch,
  TimeoutError,
  type Browser,
  type ElementHandle,
  type Locator,
  type Page,
} from 'puppeteer-core';

/** What the source of axe-core leaves in the page. */
declare const axe: Pick<typeof axeCore, 'run'>;

const CHROMIUM = ['/usr/bin/chromium', '/usr/bin/chromium-browser'];
/** A slow machine takes a minute over a run. */
const PATIENCE = 120_000;
/** Between two looks at the page: at every frame they would take a core. */
const POLL = { polling: 100 };

export async function startBrowser(): Promise<Browser> {
  const { existsSync } = await import('node:fs');
  const executablePath = CHROMIUM.find((path) => existsSync(path));
  if (executablePath === undefined) throw new Error('Chromium is not installed (Debian package chromium)');
  return launch({
    executablePath,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
}

/** A person at a browser window of their own, who finds things by the names that everybody gets. */
export class Someone {
  /** What the page complained of: script errors and anything written to the console as an error. */
  readonly complaints: string[] = [];
  /** Every answer of the API that the window received. */
  readonly received: { url: string; text: string }[] = [];

  private constructor(
    readonly page: Page,
    private readonly address: string,
  ) {}

  static async at(browser: Browser, address: string): Promise<Someone> {
    const context = await browser.createBrowserContext();
    const page = await context.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    page.setDefaultTimeout(PATIENCE);
    const someone = new Someone(page, address);
    page.on('pageerror', (error) => someone.complaints.push(String(error)));
    page.on('console', (message) => {
      // A refusal by the server is reported by the browser too; the pages say it in words.
      if (message.type() === 'error' && !message.text().startsWith('Failed to load resource'))
        someone.complaints.push(message.text());
    });
    page.on('response', (response) => {
      if (!response.url().includes('/api/') || response.url().endsWith('/events')) return;
      response.text().then(
        (text) => someone.received.push({ url: response.url(), text }),
        () => undefined,
      );
    });
    return someone;
  }

  async open(path: string): Promise<void> {
    await this.page.goto(`${this.address}${path}`);
  }

  get path(): string {
    return new URL(this.page.url()).pathname;
  }

  private named(name: string, role: string): string {
    return `::-p-aria([name="${name}"][role="${role}"])`;
  }

  /**
   * Waits for an element. The question is put again every ten seconds: it is answered when the page changes, and a busy
   * browser may give an element its name only after that.
   */
  private async awaited(
    selector: string,
    locator: Locator<Element> = this.page.locator(selector),
  ): Promise<ElementHandle> {
    for (const end = Date.now() + this.page.getDefaultTimeout(); Date.now() < end;) {
      try {
        return await locator.setTimeout(10_000).waitHandle();
      } catch (error) {
        if (!(error instanceof TimeoutError)) throw error;
      }
    }
    throw new Error(`${selector} did not appear. The page shows:\n${await this.text()}`);
  }

  async press(name: string): Promise<void> {
    await this.hit(this.named(name, 'button'));
  }

  async follow(name: string): Promise<void> {
    await this.hit(this.named(name, 'link'));
  }

  /** Clicks, and clicks again where the page moved under the pointer, as a person does who sees that nothing happened. */
  private async hit(selector: string): Promise<void> {
    const ready = this.page
      .locator(selector)
      .filter((element) => element.getAttribute('aria-disabled') !== 'true');
    for (let missed = true; missed;) {
      const element = await this.awaited(selector, ready);
      const landed = await element.evaluateHandle((aimed) => {
        const clicks = { landed: false };
        aimed.addEventListener('click', () => (clicks.landed = true), { once: true, capture: true });
        return clicks;
      });
      await ready.click();
      // Where the click led to another document, or drew the element again, there is nothing to click twice.
      missed = await element
        .evaluate((aimed, clicks) => aimed.isConnected && !clicks.landed, landed)
        .catch(() => false);
    }
  }

  async fill(label: string, text: string): Promise<void> {
    await this.typeOver(this.named(label, 'textbox'), text);
  }

  /** Types over what a field holds: what is only cleared comes back where the page draws itself before something is typed. */
  private async typeOver(selector: string, text: string): Promise<void> {
    const field = await this.awaited(selector);
    await field.focus();
    await field.evaluate((element) => {
      (element as HTMLInputElement).select();
    });
    if (text === '') await this.page.keyboard.press('Backspace');
    else await this.page.keyboard.sendCharacter(text);
  }

  async choose(label: string, value: string): Promise<void> {
    const field = this.named(label, 'combobox');
    await this.awaited(field);
    await this.page.locator(field).fill(value);
  }

  /** Types into a field that makes suggestions, and enters it. */
  async enter(label: string, text: string): Promise<void> {
    await this.typeOver(`input[aria-label="${label}"]`, text);
    await this.page.keyboard.press('Enter');
  }

  /** Drops a file on the place of that name, by way of its file field. */
  async drop(label: string, path: string): Promise<void> {
    const field = await this.page.waitForSelector(`input[type=file][aria-label="${label}"]`);
    await (field as ElementHandle<HTMLInputElement>).uploadFile(path);
  }

  /** Waits until the page shows a text. */
  async see(text: string): Promise<void> {
    try {
      await this.page.waitForFunction((wanted) => document.body.innerText.includes(wanted), POLL, text);
    } catch {
      throw new Error(`“${text}” did not appear. The page shows:\n${await this.text()}`);
    }
  }

  /** Waits until the page no longer shows a text. */
  async seeGone(text: string): Promise<void> {
    await this.page.waitForFunction((wanted) => !document.body.innerText.includes(wanted), POLL, text);
  }

  async find(selector: string): Promise<void> {
    await this.page.waitForSelector(selector);
  }

  /** The code with which students join the course, from the page of its people. */
  async joinCode(): Promise<string> {
    await this.follow('People');
    const line = await this.page.waitForSelector('[data-join-code]');
    return (await line?.evaluate((node) => node.textContent)) ?? '';
  }

  text(): Promise<string> {
    return this.page.evaluate(() => document.body.innerText);
  }

  async signIn(email: string, password: string): Promise<void> {
    await this.open('/');
    await this.fill('Address', email);
    await this.fill('Password', password);
    await this.press('Sign in');
    await this.see('Your courses');
  }

  async signUp(name: string, email: string): Promise<void> {
    await this.open('/');
    await this.press('I am new here');
    await this.fill('Name', name);
    await this.fill('Address', email);
    await this.fill('Password', 'ten letters and more');
    await this.press('Make the account');
    await this.see('Your courses');
  }

  /** Fetches an address within the page, with its session. */
  async fetch(path: string): Promise<{ status: number; bytes: Uint8Array; text: string }> {
    const { status, base64 } = await this.page.evaluate(async (url) => {
      const response = await fetch(url);
      const bytes = new Uint8Array(await response.arrayBuffer());
      return {
        status: response.status,
        base64: btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join('')),
      };
    }, path);
    const bytes = new Uint8Array(Buffer.from(base64, 'base64'));
    return { status, bytes, text: Buffer.from(bytes).toString('utf8') };
  }

  /** What axe finds against WCAG 2.2 AA on the page as it is. */
  async barriers(): Promise<string[]> {
    // A colour that is on its way to another is neither of them.
    await this.page.evaluate(async () => {
      const ending = document
        .getAnimations()
        .filter(({ effect }) => effect?.getComputedTiming().endTime !== Infinity);
      await Promise.allSettled(ending.map(({ finished }) => finished));
    });
    await this.page.evaluate(axeCore.source);
    return this.page.evaluate(async () => {
      const { violations } = await axe.run({
        runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'],
      });
      return violations.map((v) => `${v.id}: ${v.nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`);
    });
  }
}
