import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { By, type Visitor } from './browser';

/** What a person does who brings files of their own. @param visitor the browser in which they do it */
export function ownFiles(visitor: () => Visitor) {
  const folder = mkdtempSync(join(tmpdir(), 'bold-ruler-own-'));
  const reads = (text: string) => visitor().reads(text);
  return {
    /** Writes a file; gives its path. */
    file(name: string, content: string | Uint8Array): string {
      const path = join(folder, name);
      writeFileSync(path, content);
      return path;
    },
    reads,
    /** Opens files as a new report. */
    async open(...files: string[]): Promise<void> {
      await visitor().go('/');
      await visitor().see('Choose files');
      await visitor().upload(...files);
      await visitor().onStep('data');
      await reads('Add a table');
    },
    element: (css: string) => visitor().waitFor(css, async () => (await visitor().driver.findElements(By.css(css)))[0]),
    /** The reports that are kept. */
    shelf: () => visitor().driver.findElements(By.css('[aria-labelledby=shelf] > ul > li')),
    /** The rows of the grid that are in view, each as its texts. */
    gridRows: () =>
      visitor().driver.executeScript<string[][]>(
        `return [...document.querySelectorAll('[role=grid] [data-place]')].map((row) => [...row.children].map((cell) => cell.innerText))`,
      ),
  };
}
