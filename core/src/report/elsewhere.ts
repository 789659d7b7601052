import { Problem } from '../problem';
import type { TableEntry } from './report';

/** Whether the rows of a table are in a database, where they stay. */
export const isInDatabase = ({ source }: TableEntry): boolean => source.database !== undefined;

/** Where rows in databases cannot be asked for. */
export function notReached(name: string): never {
  throw new Problem(
    'database-not-reached',
    `rows in the database “${name}” are not reached from here`,
    { in: 'tables' },
    'see docs/databases.md for where they are',
  );
}
