import { By, Key, until, type WebDriver } from 'selenium-webdriver';
import type chrome from 'selenium-webdriver/chrome.js';
import { browser } from './chromium';
import { printRatio } from './timing';

/** What a key costs beside the demo's figures, over what it costs without their pictures. */
const GOAL = 1.3;
const ROUNDS = 6;
const LETTERS = 'net sales by rep';

/** Milliseconds that the page has worked since it was opened, of its main thread. */
async function worked(driver: WebDriver & chrome.Driver): Promise<number> {
  const { metrics } = (await driver.sendAndGetDevToolsCommand('Performance.getMetrics', {})) as unknown as {
    metrics: readonly { name: string; value: number }[];
  };
  return metrics.find(({ name }) => name === 'TaskDuration')!.value * 1000;
}

/** A brief written key by key beside the film of all figures, and with the film hidden, in turn. */
export async function typing(url: string): Promise<void> {
  const driver = (await browser()) as WebDriver & chrome.Driver;
  try {
    await driver.get(url);
    const open = By.xpath('//button[contains(., "Open the demo")]');
    await (await driver.wait(until.elementLocated(open), 60_000)).click();
    await driver.wait(until.elementLocated(By.css('figure svg [data-row]')), 60_000);
    await new Promise((resolve) => setTimeout(resolve, 5000));
    await driver.sendDevToolsCommand('Performance.enable', {});
    await driver.actions().sendKeys('/').perform();
    const field = await driver.wait(until.elementLocated(By.css('[aria-label="Brief as text"]')), 60_000);
    const perKey = async (display: string) => {
      await driver.executeScript(
        `document.querySelector('aside[aria-label="Film of figures"]').style.display = arguments[0]`,
        display,
      );
      await field.sendKeys(Key.chord(Key.CONTROL, 'a'), Key.DELETE);
      await new Promise((resolve) => setTimeout(resolve, 500));
      const before = await worked(driver);
      for (const letter of LETTERS) await field.sendKeys(letter);
      return (await worked(driver)) - before;
    };
    const times: Record<'' | 'none', number[]> = { '': [], none: [] };
    for (let round = 0; round < ROUNDS; round++)
      for (const display of ['', 'none'] as const) times[display].push((await perKey(display)) / LETTERS.length);
    // The first round only warms up.
    const middle = (list: number[]) => list.slice(1).sort((a, b) => a - b)[(list.length - 1) >> 1]!;
    printRatio('key-in-the-brief-beside-the-film', middle(times['']), middle(times.none), GOAL);
  } finally {
    await driver.quit();
  }
}
