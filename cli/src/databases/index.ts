import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { didYouMean, Problem } from '@bold-ruler/core/problem';
import { clickhouse } from './clickhouse';
import { postgres } from './postgres';
import type { Connected, Reach } from './reach';

/** The file beside which the program is started that says how databases are reached. */
const FILE = 'bold-ruler.databases.json';
/** Before the name of a database in the environment, in capitals. */
const VARIABLE = 'BOLD_RULER_DATABASE_';

const open = new Map<string, Connected>();

/** A database by the name that reports call it, connected once. Throws a `Problem` where it is not told how it is reached. */
export function databaseNamed(name: string): Connected {
  let database = open.get(name);
  if (!database) {
    const reach = reachOf(name);
    database = /^https?:/.test(reach.url) ? clickhouse(name, reach) : postgres(name, reach);
    open.set(name, database);
  }
  return database;
}

/** Ends all connections. */
export async function endDatabases(): Promise<void> {
  const all = [...open.values()];
  open.clear();
  await Promise.all(all.map((one) => one.end()));
}

function reachOf(name: string): Reach {
  const variable = process.env[`${VARIABLE}${name.toUpperCase().replaceAll('-', '_')}`];
  const said = variable === undefined ? fromFile(name) : { url: variable };
  const { url } = said;
  const isUrl =
    typeof url === 'string' && (/^postgres(?:ql)?:\/\//.test(url) || (/^https?:\/\//.test(url) && URL.canParse(url)));
  if (!isUrl)
    throw new Problem(
      'unknown-engine',
      `it is not told by a “url” that begins with postgresql://, or with https:// or http:// for ClickHouse`,
      { in: `database “${name}”` },
      'see docs/databases.md',
    );
  return said;
}

function fromFile(name: string): Reach {
  const path = join(process.env['BOLD_RULER_FOLDER'] ?? process.cwd(), FILE);
  let all: Readonly<Record<string, Reach>> = {};
  if (existsSync(path)) {
    try {
      all = JSON.parse(readFileSync(path, 'utf8')) as typeof all;
    } catch {
      // What stands in it is not told: it holds passwords.
      throw new Problem(
        'wrong-databases',
        'it is not JSON',
        { in: FILE },
        'see docs/databases.md for what stands in it',
      );
    }
  }
  if (Object.hasOwn(all, name)) return all[name]!;
  const instead = `name it in ${FILE} where the program is started, or in the environment as ${VARIABLE}${name.toUpperCase().replaceAll('-', '_')}`;
  throw new Problem(
    'unknown-database',
    `it is not told how database “${name}” is reached`,
    { in: 'tables' },
    Object.keys(all).length > 0 ? `${didYouMean(name, Object.keys(all), 'database')}; or ${instead}` : instead,
  );
}
