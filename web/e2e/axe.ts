import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Visitor } from './browser';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What hinders people on the screen a visitor sees, as axe-core finds it. */
export async function hindrances({ driver }: Visitor): Promise<string[]> {
  await driver.executeScript(axe);
  return driver.executeAsyncScript<string[]>(
    `const done = arguments[arguments.length - 1];
     axe.run(document, { resultTypes: ['violations'] }).then(({ violations }) =>
       done(violations.map(({ id, nodes }) => id + ': ' + nodes.slice(0, 3).map(({ html }) => html.slice(0, 160)).join(' | '))));`,
  );
}
