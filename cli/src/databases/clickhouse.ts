import { randomUUID } from 'node:crypto';
import * as http from 'node:http';
import * as https from 'node:https';
import { isProblem, type Problem } from '@bold-ruler/core/problem';
import { CLICKHOUSE, clickhouseColumn, type Statement } from '@bold-ruler/core/source';
import { faultsOf, MOST_ROWS } from './faults';
import { TIMES, type Connected, type Reach } from './reach';

/** A statement may be so long: a step of each day of a hundred years is told in it. */
const MOST_LETTERS = 16_000_000;
/** Milliseconds until a server that does not answer is held to be away. */
const CONNECTING = 10_000;

type Row = readonly (string | null)[];

/** ClickHouse over HTTP: each statement alone, under a setting with which it can only read, with limits of time and rows. */
export function clickhouse(
  name: string,
  { url, seconds = TIMES.seconds, keep = TIMES.keep, connections = 4 }: Reach,
): Connected {
  const at = new URL(url);
  const { request, Agent } = at.protocol === 'https:' ? https : http;
  const agent = new Agent({ keepAlive: true, maxSockets: connections });
  const faults = faultsOf(name);
  const headers = {
    'X-ClickHouse-User': decodeURIComponent(at.username) || 'default',
    'X-ClickHouse-Key': decodeURIComponent(at.password),
    'Content-Type': 'text/plain; charset=utf-8',
  };
  const limits = {
    max_execution_time: String(seconds),
    max_result_rows: String(MOST_ROWS),
    result_overflow_mode: 'throw',
    max_query_size: String(MOST_LETTERS),
    skip_unavailable_shards: '0',
  };
  /** With what a statement is sent so that it only reads; null until it is known what the user may set. */
  let allowed: Promise<Readonly<Record<string, string>>> | null = null;

  /** Sends a text, and gives what is answered to it, good or not. */
  const send = (
    text: string,
    settings: Readonly<Record<string, string>>,
    signal?: AbortSignal,
    by: http.Agent | false = agent,
  ) =>
    new Promise<{ readonly isGood: boolean; readonly body: string }>((answer, fail) => {
      const to = new URL(at);
      to.username = to.password = '';
      to.pathname = '/';
      const database = decodeURIComponent(at.pathname.slice(1));
      to.search = new URLSearchParams({ ...(database ? { database } : {}), ...settings }).toString();
      const sent = request(to, { method: 'POST', agent: by, headers, ...(signal ? { signal } : {}) }, (response) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('error', fail);
        response.on('end', () =>
          response.complete
            ? answer({ isGood: response.statusCode === 200, body: Buffer.concat(parts).toString('utf8') })
            : fail(faults.away()),
        );
      });
      sent.on('socket', (socket) => {
        if (!socket.connecting) return;
        const late = setTimeout(() => sent.destroy(faults.away()), CONNECTING);
        socket.once('connect', () => clearTimeout(late));
        socket.once('close', () => clearTimeout(late));
      });
      sent.on('error', (error) => {
        // A connection that the server has closed in the meantime is no fault: a question that only reads is asked again.
        const isStale = sent.reusedSocket && (error as NodeJS.ErrnoException).code === 'ECONNRESET';
        if (isStale && !signal?.aborted) send(text, settings, signal).then(answer, fail);
        else fail(isProblem(error) ? error : signal?.aborted ? faults.left() : faults.away());
      });
      sent.end(text);
    });

  async function answerTo(text: string, format: string, signal?: AbortSignal): Promise<readonly Row[]> {
    if (signal?.aborted) throw faults.left();
    const id = randomUUID();
    const how = { query_id: id, default_format: format, wait_end_of_query: '1' };
    const own = await settingsOnce();
    // Leaving a question ends its statement: the same id, asked for something else, takes its place. It waits for no connection.
    const leave = () =>
      void send('select 1', { ...own, query_id: id, replace_running_query: '1' }, undefined, false).catch(() => {});
    signal?.addEventListener('abort', leave, { once: true });
    try {
      const { isGood, body } = await send(text, { ...how, ...own }, signal);
      if (!isGood) throw faultOf(body, faults, seconds);
      const rows = rowsIn(body);
      if (rows.length > MOST_ROWS) throw faults.tooMany(MOST_ROWS);
      return rows;
    } finally {
      signal?.removeEventListener('abort', leave);
    }
  }

  function settingsOnce(): Promise<Readonly<Record<string, string>>> {
    allowed ??= settingsFor().catch((fault: unknown) => {
      allowed = null;
      throw fault;
    });
    return allowed;
  }

  /** What the user’s own profile says decides, never what a statement brings about: a report’s query cannot undo a limit. */
  async function settingsFor(): Promise<Readonly<Record<string, string>>> {
    const names = `'readonly', 'skip_unavailable_shards'`;
    const { isGood, body } = await send(`select value from system.settings where name in (${names}) order by name`, {});
    if (!isGood) throw faultOf(body, faults, seconds);
    const [reads, skips] = body.split('\n');
    if (reads === '0') return { readonly: '1', ...limits };
    if (reads === '2') return { readonly: '2', ...limits };
    // Who can set nothing must not have been set to do without a server that is away.
    if (skips === '0') return {};
    throw faults.beyond(
      'this user goes on without servers that are away, so that numbers could be incomplete',
      'set skip_unavailable_shards to 0 in the profile of this user',
    );
  }

  return {
    name,
    keep,
    dialect: CLICKHOUSE,
    ask: ({ text }: Statement, signal) => answerTo(text, 'TabSeparated', signal),
    async describe(from) {
      const [names, types] = (await answerTo(
        `select * from ${from} limit 0`,
        'TabSeparatedWithNamesAndTypes',
      )) as readonly [readonly string[], readonly string[]];
      return { columns: names.map((one, i) => clickhouseColumn(one, types[i]!)), order: null };
    },
    async end() {
      agent.destroy();
    },
  };
}

const ESCAPED: Readonly<Record<string, string>> = { b: '\b', f: '\f', r: '\r', n: '\n', t: '\t', 0: '\0' };

/** Rows as they come: cells between tabs, with a backslash before what is not meant as it is; `\N` is nothing. */
function rowsIn(body: string): Row[] {
  const cell = (text: string) =>
    text === '\\N'
      ? null
      : text.includes('\\')
        ? text.replaceAll(/\\(.)/gs, (_, letter: string) => ESCAPED[letter] ?? letter)
        : text;
  return body === ''
    ? []
    : body
        .replace(/\n$/, '')
        .split('\n')
        .map((line) => line.split('\t').map(cell));
}

/** What went wrong, from the number it is known by and its sentence. */
function faultOf(body: string, faults: ReturnType<typeof faultsOf>, seconds: number): Problem {
  const code = Number(/^Code: (\d+)/.exec(body)?.[1] ?? 0);
  const message = sentenceIn(body);
  switch (code) {
    case 60:
    case 81:
      return faults.noTable(message);
    case 8:
    case 10:
    case 16:
    case 47:
      return faults.noColumn(message);
    case 159:
    case 160:
      return faults.slow(seconds);
    case 164:
      return /Table functions/.test(body) ? faults.says(message) : faults.notReading();
    case 192:
    case 193:
    case 194:
    case 195:
    case 516:
      return faults.refuses();
    case 291:
    case 497:
      return faults.noRight(message);
    case 202:
      return faults.busy();
    case 241:
      return faults.tooLarge();
    case 158:
    case 396:
      return faults.tooMany(MOST_ROWS);
    case 394:
      return faults.left();
    case 395:
      return faults.beyond('days there lie from 1970-01-02 to 2105-12-31', 'leave out texts of other days in a view');
    case 407:
      return faults.beyond('a number has more digits than the 38 it counts with', 'take a number with fewer decimals');
    // It is there itself: what it cannot reach holds a part of the rows.
    case 32:
    case 101:
    case 102:
    case 198:
    case 209:
    case 210:
    case 279:
      return faults.incomplete();
    // Asked once more over another connection while it still ran: it cannot be had.
    case 216:
    case 0:
      return faults.away();
    default:
      return faults.says(message);
  }
}

/** Its sentence alone: where it comes from, and from which server, is not told. */
const sentenceIn = (body: string): string =>
  body
    .replace(/^Code: \d+[.,]\s*(?:e\.displayText\(\) = )?(?:DB::\w*Exception: )?/, '')
    .replace(/(?:\.?\s*Stack trace|, e\.what\(\)|\. Received from| \(version)[\s\S]*$/, '')
    .replaceAll(/\b[\w.-]+:\d{2,5}\b/g, '…')
    .replace(/[.\s]+$/, '')
    .slice(0, 300);
