import pg from 'pg';
import { isProblem } from '@bold-ruler/core/problem';
import { POSTGRESQL, type DatabaseColumn, type Statement } from '@bold-ruler/core/source';
import { faultsOf, MOST_ROWS } from './faults';
import { queue } from './queue';
import { TIMES, type Connected, type Reach } from './reach';

/** PostgreSQL over its own protocol: each statement alone, its values bound, in a transaction that can only read. */
export function postgres(
  name: string,
  { url, seconds = TIMES.seconds, keep = TIMES.keep, connections = 4 }: Reach,
): Connected {
  const pool = new pg.Pool({
    connectionString: url,
    max: connections,
    connectionTimeoutMillis: 10_000,
    idleTimeoutMillis: 10_000,
    allowExitOnIdle: true,
    statement_timeout: seconds * 1000,
    application_name: 'bold-ruler',
    options: '-c default_transaction_read_only=on -c datestyle=ISO -c intervalstyle=iso_8601 -c extra_float_digits=1',
  });
  // A connection that is lost while nobody uses it is no fault of a question.
  pool.on('error', ignored);

  const faults = faultsOf(name);
  // Who waits for a connection is not away: only connecting has a time limit.
  const inTurn = queue(connections, faults.left);

  const inReading = <T>(work: (client: pg.PoolClient) => Promise<T>, signal?: AbortSignal): Promise<T> =>
    inTurn(() => reading(work, signal), signal);

  async function reading<T>(work: (client: pg.PoolClient) => Promise<T>, signal?: AbortSignal): Promise<T> {
    let client: pg.PoolClient | null = null;
    let isBroken = false;
    let leaving: Promise<void> | null = null;
    const leave = () => (leaving = cancel(client!));
    try {
      client = await pool.connect();
      // A connection that is lost between two statements is told by the next one.
      client.on('error', ignored);
      if (signal?.aborted) throw faults.left();
      signal?.addEventListener('abort', leave);
      await client.query('begin transaction isolation level repeatable read read only');
      const found = await work(client);
      isBroken = !(await isAsNew(client));
      return found;
    } catch (error) {
      // After a fault the transaction is over or cannot be trusted.
      isBroken = true;
      throw signal?.aborted ? faults.left() : faultOf(error, faults, seconds);
    } finally {
      signal?.removeEventListener('abort', leave);
      // Nobody else gets the connection before it is known that their statement is not the one that is ended.
      await leaving;
      client?.off('error', ignored);
      client?.release(isBroken || leaving !== null);
    }
  }

  /**
   * Takes back what a statement may have changed of its connection: a report's own query can set a time zone, a path or a limit, take
   * locks and make temporary things, and the next one belongs to another report. False where that could not be done.
   */
  async function isAsNew(client: pg.PoolClient): Promise<boolean> {
    try {
      await client.query('rollback');
      await client.query('discard all');
      return true;
    } catch {
      return false;
    }
  }

  /** Ends what a connection is doing, by another one: the first is busy. */
  async function cancel({ processID }: pg.PoolClient & { processID?: number }): Promise<void> {
    const other = new pg.Client({ connectionString: url, connectionTimeoutMillis: 10_000 });
    other.on('error', ignored);
    try {
      await other.connect();
      await other.query('select pg_cancel_backend($1)', [processID]);
    } catch {
      // Then it ends by its time limit.
    } finally {
      await other.end().catch(ignored);
    }
  }

  const sent = (client: pg.PoolClient, { text, values }: Statement) =>
    client.query<(string | null)[]>({
      text,
      values: values as unknown[],
      rowMode: 'array',
      // One statement and no more, also where nothing is bound.
      queryMode: 'extended',
      types: { getTypeParser: () => (value: string) => value },
    } as pg.QueryArrayConfig);

  return {
    name,
    keep,
    dialect: POSTGRESQL,
    ask: (statement, signal) =>
      inReading(async (client) => {
        const { rows } = await sent(client, statement);
        if (rows.length > MOST_ROWS) throw faults.tooMany(MOST_ROWS);
        return rows;
      }, signal),
    describe: (from) =>
      inReading(async (client) => {
        const { fields } = await sent(client, { text: `select * from ${from} limit 0`, values: [] });
        // Rows of a table have an order of their own; those of views and queries have none.
        const isTable = !from.startsWith('(');
        const { rows: kinds } = isTable
          ? await sent(client, { text: 'select relkind from pg_class where oid = to_regclass($1)', values: [from] })
          : { rows: [] };
        const order = ['r', 'p', 'm'].includes(kinds[0]?.[0] ?? '') ? 'tableoid, ctid' : null;
        return { columns: fields.map(columnOf), order };
      }),
    end: () => pool.end(),
  };
}

const ignored = (): void => {};

/** What a type of the database is here, by its number in its catalogue. */
const KINDS: Readonly<Record<number, Omit<DatabaseColumn, 'name'>>> = {
  16: { kind: 'yesno' },
  20: { kind: 'number', decimals: 0, isInteger: true },
  21: { kind: 'number', decimals: 0, isInteger: true },
  23: { kind: 'number', decimals: 0, isInteger: true },
  700: { kind: 'number', decimals: null },
  701: { kind: 'number', decimals: null },
  1082: { kind: 'date' },
  1114: { kind: 'date', isTimed: true },
  1184: { kind: 'date', isTimed: true },
  // name, text, char(n), varchar(n), uuid
  18: { kind: 'text' },
  19: { kind: 'text' },
  25: { kind: 'text' },
  1042: { kind: 'text' },
  1043: { kind: 'text' },
  2950: { kind: 'text' },
};
const NUMERIC = 1700;
/** Types from here on are made in the database: enumerations and the like, which are read as text. */
const OWN_TYPES = 16384;

function columnOf({ name, dataTypeID, dataTypeModifier }: pg.FieldDef): DatabaseColumn {
  if (dataTypeID === NUMERIC) {
    // The decimals stand in the lower half; without them the values have to tell.
    if (dataTypeModifier < 4) return { name, kind: 'number' };
    return { name, kind: 'number', decimals: (dataTypeModifier - 4) & 0x7ff };
  }
  const known = KINDS[dataTypeID];
  if (known) return { name, ...known };
  return { name, kind: dataTypeID >= OWN_TYPES ? 'text' : null };
}

/** What went wrong, from the code it is known by. */
function faultOf(error: unknown, faults: ReturnType<typeof faultsOf>, seconds: number): unknown {
  if (isProblem(error)) return error;
  const { code = '', message = '' } = error as { code?: string; message?: string };
  // A message that says a name says nothing else.
  const sentence = message.slice(0, 300);
  if (code === '57014') return faults.slow(seconds);
  if (code === '42P01') return faults.noTable(sentence);
  if (code === '42703') return faults.noColumn(sentence);
  if (code === '42501') return faults.noRight(sentence);
  if (code === '25006') return faults.notReading();
  if (code.startsWith('28') || code === '3D000') return faults.refuses();
  if (code.startsWith('53') || code.startsWith('57P')) return faults.busy();
  // Everything else it says of itself, but for what it says of the connection.
  if (/^[0-9A-Z]{5}$/.test(code) && !code.startsWith('08')) return faults.says(message);
  return faults.away();
}
