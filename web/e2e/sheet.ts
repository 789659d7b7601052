import type { Visitor } from './browser';

/** What stands on the page that is open. @param visitor the browser in which it is */
export function sheetOf(visitor: () => Visitor) {
  /** All its texts, figure by figure. */
  const sheet = () =>
    visitor().driver.executeScript<string>(
      `return [...document.querySelectorAll('main figure, main div > svg')].map((one) => [...one.querySelectorAll('text')].map((text) => text.textContent).join(' ')).join(' | ')`,
    );
  return {
    sheet,
    says: (words: string) =>
      visitor().waitFor(`the page to say “${words}”`, async () => (await sheet()).includes(words)),
  };
}
