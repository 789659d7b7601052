/** The server under load: the demo's bullet drawn by many, alone and with ten beside that ask for what takes long. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { serve } from '../../web/e2e/serve';

const [web, demo] = process.argv.slice(2) as [string, string];
/** Seconds of each part, and how many ask at once. */
const SECONDS = 20;
const AT_ONCE = 2;
const HOSTILE = 10;
/** Milliseconds within which 99 of 100 are answered, whoever is beside. */
const GOAL = 10_000;

const bundle = join(mkdtempSync(join(tmpdir(), 'bold-ruler-load-')), 'demo.ruler.zip');
spawnSync('npx', ['bold-ruler', 'bundle', demo, '-o', bundle], { cwd: join(web, '..') });
const bytes = new Uint8Array(readFileSync(bundle));
const { url, stop } = await serve(web);

const ask = (query: string, body: Uint8Array | string, type: string) =>
  fetch(`${url}/api/${query}`, { method: 'POST', headers: { 'Content-Type': type }, body: body as BodyInit });

/** Long notes, and a pattern that a careless matcher would never be done with. */
const SLOW = JSON.stringify({
  report: {
    boldRuler: 1,
    name: 'slow',
    tables: [{ id: 't', source: { file: 't.csv' } }],
    measures: [{ name: 'net', table: 't', expression: "sum(if(note like '%a%b%c%d%e%f%x%', net, 0))" }],
  },
  tables: {
    't.csv': `day,note,net\n${Array.from({ length: 60_000 }, (_, i) => `20${10 + (i % 80)}-01-02,${i}${'abcdef'.repeat(40)},${i}`).join('\n')}`,
  },
  brief: 'net each day',
});

interface Load {
  readonly answered: number;
  readonly refused: number;
  readonly perSecond: number;
  readonly slowest99: number;
}

/** What those who ask for the bullet get, one question after another each. */
async function load(): Promise<Load> {
  const times: number[] = [];
  let refused = 0;
  const until = performance.now() + SECONDS * 1000;
  const one = async () => {
    while (performance.now() < until) {
      const begin = performance.now();
      const answer = await ask('draw?figure=territories', bytes, 'application/zip');
      await answer.arrayBuffer();
      if (answer.status === 200) times.push(performance.now() - begin);
      else {
        refused++;
        await new Promise((resolve) => setTimeout(resolve, 250));
      }
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, one));
  times.sort((a, b) => a - b);
  return {
    answered: times.length,
    refused,
    perSecond: times.length / SECONDS,
    slowest99: times[Math.min(times.length - 1, Math.floor(times.length * 0.99))] ?? NaN,
  };
}

const told = (name: string, { answered, refused, perSecond, slowest99 }: Load, goal = '') =>
  console.log(
    `load ${name}: ${perSecond.toFixed(1)} a second, 99 of 100 within ${slowest99.toFixed(0)} ms, ${answered} drawn, ${refused} asked to come again${goal}`,
  );

try {
  await load();
  const alone = await load();
  told('demo-bullet alone', alone);
  let isOver = false;
  const hostile = Promise.all(
    Array.from({ length: HOSTILE }, async () => {
      while (!isOver) {
        await ask('draw', SLOW, 'application/json').then((answer) => answer.arrayBuffer());
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    }),
  );
  const beside = await load();
  isOver = true;
  told(
    `demo-bullet with ${HOSTILE} hostile beside`,
    beside,
    `  (goal ≤ ${GOAL} ms: ${beside.slowest99 <= GOAL ? 'met' : 'missed'})`,
  );
  await hostile;
} finally {
  stop();
}
