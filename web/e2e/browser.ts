import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Builder, By, error, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome.js';
import { serve } from './serve';

export const WEB = fileURLToPath(new URL('..', import.meta.url));
const PATIENCE = 240_000;
/** Milliseconds between two looks. */
const POLL = 40;

/** What is not there yet, has been drawn anew since it was found, or cannot be pressed while something moves: it is looked for again. */
const NOT_YET = [
  error.NoSuchElementError,
  error.StaleElementReferenceError,
  error.ElementClickInterceptedError,
  error.ElementNotInteractableError,
  error.JavascriptError,
];

/** A browser with the application open, and the few things a person does with it. */
export interface Visitor {
  readonly driver: WebDriver;
  readonly url: string;
  readonly downloads: string;
  go(path: string): Promise<void>;
  /** The element a person would call by that text: a button, a link or anything else. */
  see(text: string): Promise<WebElement>;
  press(text: string): Promise<void>;
  keys(...keys: string[]): Promise<void>;
  /** Presses a key while Control (and Shift) are held. */
  control(key: string, shift?: 'shift'): Promise<void>;
  upload(...files: string[]): Promise<void>;
  /** Pastes text into the page, as from a spreadsheet. */
  paste(text: string): Promise<void>;
  /** Everything that can be read on the page. */
  text(): Promise<string>;
  /** Waits until that can be read on the page. */
  reads(words: string | RegExp): Promise<void>;
  /** Waits for a file to arrive and gives its text. */
  saved(name: string): Promise<string>;
  /** Waits until the page has nothing more to do. */
  idle(): Promise<void>;
  /** Presses a key that moves what is held, and waits until that is said. */
  moves(key: string): Promise<void>;
  /** A command of the browser's own tools (Chrome DevTools Protocol). */
  devtools(command: string, what: object): Promise<void>;
  /** Runs in every page from now on, before anything of it does. */
  ahead(script: string): Promise<void>;
  waitFor<T>(what: string, test: () => Promise<T | null | undefined | false>): Promise<T>;
  /** A window of another size; 1280 × 800 when left out. */
  sized(width?: number, height?: number): Promise<void>;
  /** The report whose screen this is, as its address names it. */
  report(): Promise<string | undefined>;
  /** Waits until a step's screen is there; a figure may be named behind it in the address. */
  onStep(step: string): Promise<void>;
  leave(): Promise<void>;
}

/** A browser with the demo's report on the bench. */
export async function visitDemo(): Promise<Visitor> {
  const visitor = await visit();
  await visitor.go('/');
  await visitor.press('Open the demo');
  await visitor.see('Highlight');
  return visitor;
}

/**
 * A browser with nothing open.
 * @param name another name under which it finds this machine
 */
export async function openBrowser(downloads: string, name?: string): Promise<WebDriver & chrome.Driver> {
  const options = new chrome.Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.setUserPreferences({ 'download.default_directory': downloads, 'download.prompt_for_download': false });
  options.addArguments(
    '--headless=new',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    `--user-data-dir=${mkdtempSync(join(tmpdir(), 'bold-ruler-browser-'))}`,
    ...(name ? [`--host-resolver-rules=MAP ${name} 127.0.0.1`] : []),
  );
  const driver = (await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
    .build()) as WebDriver & chrome.Driver;
  await driver.manage().setTimeouts({ script: PATIENCE });
  return driver;
}

/**
 * @param environment of a server of its own; left out, it is the one that all share
 * @param name under which the server is asked for, as from another machine; localhost when left out
 */
export async function visit(environment?: Readonly<Record<string, string>>, name?: string): Promise<Visitor> {
  const shared = process.env.BOLD_RULER_TESTED_AT;
  const { url: here, stop } = environment || !shared ? await serve(WEB, environment) : { url: shared, stop: () => {} };
  const url = name ? here.replace('localhost', name) : here;
  const downloads = mkdtempSync(join(tmpdir(), 'bold-ruler-saved-'));
  const driver = await openBrowser(downloads, name);
  const sized = (width = 1280, height = 800) =>
    driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: false,
    });
  await sized();
  await driver.sendDevToolsCommand('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads });

  // Light enough to be asked again and again without holding up the page.
  const FIND = `
    const wanted = arguments[0];
    const said = (element) => (element.getAttribute('aria-label') ?? element.textContent ?? '').replace(/\\s+/g, ' ').trim();
    for (const exact of [true, false]) {
      for (const element of document.querySelectorAll('button, a, h1, h2, p, option, summary, [role=alert], [role=status], [role=option], [role=dialog], [role=radio], [role=group]')) {
        const text = said(element);
        if (exact ? text === wanted : text.startsWith(wanted)) return element;
      }
    }
    return null;`;
  const visitor: Visitor = {
    driver,
    url,
    downloads,
    sized,
    devtools: (command, what) => driver.sendDevToolsCommand(command, what),
    ahead: (source) => visitor.devtools('Page.addScriptToEvaluateOnNewDocument', { source }),
    go: (path) => driver.get(`${url}${path}`),
    see(text) {
      return visitor.waitFor(`“${text}” to be there`, () => driver.executeScript<WebElement | null>(FIND, text));
    },
    async press(text) {
      await visitor.waitFor(`“${text}” to be pressed`, async () => {
        const element = await driver.executeScript<WebElement | null>(FIND, text);
        if (!(await element?.isEnabled())) return false;
        await element!.click();
        return true;
      });
    },
    async keys(...keys) {
      await driver
        .actions()
        .sendKeys(...keys)
        .perform();
    },
    async control(key, shift) {
      const actions = driver.actions().keyDown(Key.CONTROL);
      if (shift) actions.keyDown(Key.SHIFT);
      actions.sendKeys(key);
      if (shift) actions.keyUp(Key.SHIFT);
      await actions.keyUp(Key.CONTROL).perform();
    },
    async paste(text) {
      await driver.executeScript(
        `const data = new DataTransfer(); data.setData('text/plain', arguments[0]);
         window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));`,
        text,
      );
    },
    async text() {
      return (await driver.executeScript<string>('return document.body.innerText')).replace(/\s+/g, ' ');
    },
    async reads(words) {
      await visitor.waitFor(`“${words}” to be read`, async () => {
        const text = await visitor.text();
        return typeof words === 'string' ? text.includes(words) : words.test(text);
      });
    },
    async upload(...files) {
      const input = await driver.wait(until.elementLocated(By.css('input[type=file]')), PATIENCE);
      await input.sendKeys(files.join('\n'));
    },
    saved(name) {
      const path = join(downloads, name);
      return visitor.waitFor(`the file ${name}`, async () => existsSync(path) && readFileSync(path, 'utf8'));
    },
    waitFor(what, test) {
      let last: unknown = '';
      const tried = async () => {
        try {
          const found = await test();
          last = '';
          return found || null;
        } catch (thrown) {
          if (!NOT_YET.some((kind) => thrown instanceof kind)) throw thrown;
          last = thrown;
          return null;
        }
      };
      const found = driver.wait(tried, PATIENCE, '', POLL) as Promise<NonNullable<Awaited<ReturnType<typeof tried>>>>;
      return found.catch(async (thrown: Error) => {
        if (!(thrown instanceof error.TimeoutError)) throw thrown;
        // Whoever reads this was not there: the page says where it stood.
        const at = await driver.getCurrentUrl();
        throw new Error(
          `waited in vain for ${what}, at ${at}; ${last}; it reads: ${(await visitor.text()).slice(0, 2000)}`,
        );
      });
    },
    async report() {
      return /\/report\/([^/]+)/.exec(await driver.getCurrentUrl())?.[1];
    },
    async onStep(step) {
      await visitor.waitFor(`the screen of “${step}”`, async () =>
        new RegExp(`/report/[^/]+/${step}(/|$)`).test(await driver.getCurrentUrl()),
      );
    },
    async idle() {
      // A page that is never idle, as on a machine that does other work, is gone on with after a while.
      await driver.executeAsyncScript(`
        const done = arguments[0];
        const idle = (then) => requestIdleCallback(then, { timeout: 2000 });
        idle(() => idle(() => done()));`);
    },
    async moves(key) {
      const said = () =>
        driver.executeScript<string>(
          `return [...document.querySelectorAll('[id^=DndLiveRegion]')].map((one) => one.textContent).join(' ')`,
        );
      const before = await said();
      await visitor.keys(key);
      await visitor.waitFor(`something said of ${key}`, async () => (await said()) !== before);
    },
    async leave() {
      // Nothing that any of the tests did went against the page's security policy.
      const logged = await driver.manage().logs().get('browser');
      const against = logged.filter(({ message }) => message.includes('Content Security Policy'));
      await driver.quit();
      stop();
      if (against.length > 0) throw new Error(against.map(({ message }) => message).join('\n'));
    },
  };
  return visitor;
}

export { By, Key };
