import { isoDay } from '@bold-ruler/core/calendar';
import { sqlSource, tableInSql } from '@bold-ruler/core/source';
import { afterAll, beforeAll, describe } from 'vitest';
import { contractOf, ROWS } from '../../../core/src/source/contract.fixture';
import { postgres, type Connected } from './postgres';
import { PROGRAMS, startServer, type Server } from './server.fixture';

const YEARS = { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday' } as const;

describe.skipIf(PROGRAMS === null)('PostgreSQL (Debian’s package postgresql)', () => {
  let server: Server;
  let database: Connected;
  beforeAll(async () => {
    server = await startServer();
    await server.owner('create table sales (day date, shop text, line text, net numeric(12,2), pieces int)');
    await server.owner(
      'insert into sales select * from unnest($1::date[], $2::text[], $3::text[], $4::numeric[], $5::int[])',
      [
        ROWS.map(({ day }) => (day === null ? null : isoDay(day))),
        ROWS.map(({ shop }) => shop),
        ROWS.map(({ line }) => line),
        ROWS.map(({ net }) => net),
        ROWS.map(({ pieces }) => pieces),
      ],
    );
    database = postgres('here', { url: server.url() });
  });
  afterAll(async () => {
    await database?.end();
    await server?.end();
  });

  contractOf('rows in PostgreSQL', async () => {
    const entry = { id: 'sales', source: { file: 'sales', database: 'here', table: 'sales' }, date: 'day' };
    const table = await tableInSql(entry, database, YEARS as never);
    return sqlSource(new Map([['sales', table]]), YEARS as never);
  });
});
