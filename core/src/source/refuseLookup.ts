import { listed, Problem } from '../problem';
import type { Joining } from '../table';
import type { Followed } from './following';

/** Refuses to look anything up where a key stands twice, or where rows have no day by which one would be valid. Throws a `Problem`. */
export function refuseLookup(table: string, joining: Joining, followed: Followed): void {
  if (followed.twice.length > 0) throw keysTwice(table, joining, followed);
  if (followed.undated) throw withoutDays(table, joining.to);
}

function withoutDays(table: string, to: string): Problem {
  return new Problem(
    'no-dates',
    `rows of “${table}” have no date, so nobody can say which row of “${to}” is valid for them`,
    { in: `table “${table}”` },
    'choose its date column, or leave “since” out',
  );
}

function keysTwice(table: string, { to, on, since }: Joining, { twice }: Followed): Problem {
  const named = twice.slice(0, 5).map(({ key, rows }) => `“${key}” in ${rows} rows`);
  const more = twice.length - named.length;
  return new Problem(
    'keys-twice',
    `“${to}” has more than one row for ${twice.length === 1 ? 'a key' : `${twice.length} keys`}: ${named.join(', ')}${more > 0 ? ` and ${more} more` : ''}`,
    { in: `lookup of “${table}” in “${to}” by ${listed(on, 'and')}` },
    since === undefined
      ? `leave one row for each in “${to}”, add a column that tells them apart, or say from which day each is valid (“since”)`
      : `leave one row for each key and day in “${to}”`,
  );
}
