import { createHash } from 'node:crypto';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { connect } from 'node:net';
import { networkInterfaces, tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { WEB } from './browser';
import { serve } from './serve';

const root = fileURLToPath(new URL('../..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'bold-ruler-api-'));
const REPORT = {
  boldRuler: 1,
  name: 'r',
  tables: [{ id: 't', source: { file: 't.csv' } }],
  measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
  figures: [{ id: 'f', brief: 'net by shop as bars' }],
};
const TABLES = { 't.csv': 'shop,net\n"<b>North</b>",5\nSouth,7\n' };

let server: Awaited<ReturnType<typeof serve>>;
beforeAll(async () => {
  server = await serve(WEB);
});
afterAll(() => server?.stop());

const ask = (path: string, body: unknown, type = 'application/json') =>
  fetch(`${server.url}/api/${path}`, {
    method: 'POST',
    // Between two questions the command line may run so long that the server lets an idle connection go.
    headers: { 'Content-Type': type, Connection: 'close' },
    body: typeof body === 'string' || body instanceof Uint8Array ? (body as BodyInit) : JSON.stringify(body),
  });
const refusal = async (answer: Response) => [answer.status, ((await answer.json()) as { code: string }).code];

test('a bundle is drawn and computed as the command line does it, byte for byte', async () => {
  const run = (...words: string[]) => spawnSync('npx', ['bold-ruler', ...words], { cwd: root, maxBuffer: 1e8 }).stdout;
  const demo = join(root, 'demo/files/pellwether.ruler.json');
  const [bundle, svg, png] = ['d.ruler.zip', 'd.svg', 'd.png'].map((name) => join(folder, name)) as [
    string,
    string,
    string,
  ];
  run('bundle', demo, '-o', bundle);
  run('draw', demo, 'territories', '-o', svg);
  run('draw', demo, 'territories', '-o', png, '--scale', '2');
  const sent = new Uint8Array(readFileSync(bundle));
  // Should they differ, it is seen by their digests: all that differs of two pictures would take minutes to tell.
  const digest = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
  const drawn = async (query: string) => {
    const answer = await ask(query, sent, 'application/zip');
    expect(answer.status).toBe(200);
    const bytes = new Uint8Array(await answer.arrayBuffer());
    return [answer.headers.get('content-type'), bytes.length, digest(bytes)];
  };
  const made = (type: string, bytes: Uint8Array) => [type, bytes.length, digest(bytes)];
  expect(await drawn('draw?figure=territories')).toEqual(made('image/svg+xml', readFileSync(svg)));
  expect(await drawn('draw?figure=territories&format=png&scale=2')).toEqual(made('image/png', readFileSync(png)));
  expect(await drawn('numbers?figure=territories')).toEqual(
    made('application/json', run('numbers', demo, 'territories')),
  );
  expect(await drawn('numbers?figure=territories&format=csv')).toEqual(
    made('text/csv; charset=utf-8', run('numbers', demo, 'territories', '--csv')),
  );
});

test('a table of several files is that of all of them, and one that was not sent is named', async () => {
  const report = { ...REPORT, tables: [{ id: 't', source: { files: ['t.csv', 'more.csv'] } }] };
  const tables = { ...TABLES, 'more.csv': 'shop,net\nSouth,30\nWest,1\n' };
  const numbers = (await (await ask('numbers?brief=net', { report, tables })).json()) as { total: { actual: number } };
  expect(numbers.total.actual).toBe(43);
  const lacking = await ask('numbers?brief=net', { report, tables: TABLES });
  expect(await lacking.json()).toMatchObject({
    code: 'file-not-there',
    message: expect.stringContaining('table “t” reads more.csv, which was not sent'),
  });
});

test('a report with its tables is drawn, by a figure or by a brief; text from data stays text', async () => {
  const svg = await (await ask('draw', { report: REPORT, tables: TABLES, figure: 'f' })).text();
  expect(svg).toContain('&lt;b&gt;North&lt;/b&gt;');
  expect(svg).not.toContain('<b>');
  const numbers = (await (await ask('numbers?brief=net', { report: REPORT, tables: TABLES })).json()) as {
    total: { actual: number };
  };
  expect(numbers.total.actual).toBe(12);
});

test('what is wrong is said with a status of its own', async () => {
  const whole = { report: REPORT, tables: TABLES, figure: 'f' };
  expect(await refusal(await ask('draw', 'x', 'text/plain'))).toEqual([415, 'unknown-type']);
  expect(await refusal(await ask('draw', '{'))).toEqual([400, 'broken-json']);
  expect(await refusal(await ask('draw', { ...whole, more: 1 }))).toEqual([400, 'wrong-request']);
  expect(await refusal(await ask('draw', { report: REPORT, tables: TABLES }))).toEqual([400, 'wrong-request']);
  expect(await refusal(await ask('draw?format=bmp', whole))).toEqual([400, 'wrong-request']);
  expect(await refusal(await ask('numbers?format=svg', whole))).toEqual([400, 'wrong-request']);
  expect(await refusal(await ask('draw', { ...whole, figure: 'g' }))).toEqual([404, 'unknown-figure']);
  expect(await refusal(await ask('draw', { report: REPORT, figure: 'f' }))).toEqual([422, 'file-not-there']);
  expect(await refusal(await ask('draw', { ...whole, report: { ...REPORT, more: 1 } }))).toEqual([422, 'wrong-report']);
  expect(await refusal(await ask('draw?figure=f', 'PK', 'application/zip'))).toEqual([422, 'broken-bundle']);
  expect(await refusal(await ask('draw', new Uint8Array(64_000_001)))).toEqual([413, 'too-large']);
  expect((await fetch(`${server.url}/api/draw`)).status).toBe(405);
});

test('many at once are drawn one after the other, or asked to come again', async () => {
  const answers = await Promise.all(
    Array.from({ length: 14 }, () => ask('draw', { report: REPORT, tables: TABLES, figure: 'f' })),
  );
  const statuses = answers.map(({ status }) => status);
  expect(statuses.filter((status) => status === 200).length).toBeGreaterThanOrEqual(10);
  for (const answer of answers)
    if (answer.status !== 200) expect([answer.status, answer.headers.get('retry-after')]).toEqual([503, '5']);
});

test('pixels are counted before a picture is made', async () => {
  const huge = { ...REPORT, figures: [{ id: 'f', brief: 'net by shop as bars', look: { width: 4000, height: 4000 } }] };
  expect(await refusal(await ask('draw?format=png&scale=8', { report: huge, tables: TABLES, figure: 'f' }))).toEqual([
    422,
    'too-many-pixels',
  ]);
});

test('deep and endless bodies are refused at once', async () => {
  expect(await refusal(await ask('draw', '['.repeat(20_000_000)))).toEqual([400, 'odd-shape']);
});

/** What a raw request is answered with, as no program of the web would send it. */
function raw(request: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const socket = connect(Number(new URL(server.url).port), '127.0.0.1', () => socket.end(request));
    let text = '';
    socket.on('data', (part: Buffer) => (text += part.toString()));
    socket.on('end', () => resolve(text));
    socket.on('error', reject);
  });
}

test('odd methods, addresses and requests are refused with headers, and the server goes on', async () => {
  const { host } = new URL(server.url);
  for (const [request, status] of [
    [`TRACE / HTTP/1.1\r\nHost: ${host}\r\n\r\n`, 405],
    [`GET /%E0%A4%A HTTP/1.1\r\nHost: ${host}\r\n\r\n`, 400],
    [`GET / HTTP/1.1\r\nHost: elsewhere.example\r\n\r\n`, 421],
    ['nonsense\r\n\r\n', 400],
  ] as const) {
    const answer = await raw(request);
    expect(answer).toMatch(new RegExp(`^HTTP/1\\.1 ${status} `));
    expect(answer).toMatch(/x-content-type-options: nosniff/i);
  }
  const foreign = await fetch(`${server.url}/api/draw`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Origin: 'http://elsewhere.example' },
    body: '{}',
  });
  expect(foreign.status).toBe(403);
  expect((await fetch(server.url)).status).toBe(200);
});

test('it listens on this machine alone, and opened to others asks for its token', async () => {
  const others = Object.values(networkInterfaces())
    .flat()
    .find((one) => one && one.family === 'IPv4' && !one.internal)?.address;
  const { port } = new URL(server.url);
  if (others) await expect(fetch(`http://${others}:${port}/`)).rejects.toThrow();
  const open = await serve(WEB, { HOST: '0.0.0.0', BOLD_RULER_TOKEN: 'tea time' });
  try {
    const asking = (headers: Record<string, string>) =>
      fetch(`${open.url}/api/numbers`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', ...headers },
        body: JSON.stringify({ report: REPORT, tables: TABLES, figure: 'f' }),
      });
    expect((await asking({})).status).toBe(401);
    expect((await asking({ Authorization: 'Bearer tea time' })).status).toBe(200);
    // Whoever comes from elsewhere is heard, and asked for it, too.
    if (others) expect((await fetch(open.url.replace('localhost', others))).status).toBe(401);
  } finally {
    open.stop();
  }
});

test('the description names every path and every format that is answered', () => {
  const { paths } = JSON.parse(readFileSync(join(root, 'docs/openapi.json'), 'utf8')) as {
    paths: Record<string, { post: { parameters: { name?: string; schema?: { enum: string[] } }[] } }>;
  };
  const formats = Object.fromEntries(
    Object.entries(paths).map(([path, { post }]) => [
      path,
      post.parameters.find(({ name }) => name === 'format')!.schema!.enum,
    ]),
  );
  expect(formats).toEqual({ '/api/draw': ['svg', 'png', 'json'], '/api/numbers': ['json', 'csv'] });
});
