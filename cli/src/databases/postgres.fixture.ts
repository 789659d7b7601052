import { POSTGRESQL } from '@bold-ruler/core/source';
import type { Declared, Engine } from './agreement.fixture';
import type { Server } from './server.fixture';

const typeOf = (kind: Declared, decimals = 2): string =>
  ({ text: 'text', number: `numeric(12,${decimals})`, integer: 'int', date: 'date', yesno: 'boolean' })[kind];

/** Fills tables of a server of ours. */
export function fillerOf(server: Server): Pick<Engine, 'fill'> {
  return {
    async fill(table, columns, rows) {
      const { quoted } = POSTGRESQL;
      await server.owner(`drop table if exists ${quoted(table)}`);
      await server.owner(
        `create table ${quoted(table)} (${columns.map(([name, ...type]) => `${quoted(name)} ${typeOf(...type)}`).join(', ')})`,
      );
      const lists = columns.map(([, kind], i) => `$${i + 1}::${typeOf(kind).replace(/\(.*/, '')}[]`);
      await server.owner(
        `insert into ${quoted(table)} select * from unnest(${lists.join(', ')})`,
        columns.map((_, c) => rows.map((row) => row[c])),
      );
    },
  };
}
