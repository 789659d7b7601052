import { isoDay } from '@bold-ruler/core/calendar';
import { afterAll, describe } from 'vitest';
import type { Row } from '../../../core/src/source/contract.fixture';
import { agreesWithMemory, type Engine } from './agreement.fixture';
import { clickhouse } from './clickhouse';
import { clusterFiller, HAS_CLICKHOUSE, startCluster, type Cluster } from './cluster.fixture';

/** Its rows have no order of their own: they are put in order by their columns, blanks last. */
function byColumns(a: Row, b: Row): number {
  const cells = ({ day, shop, line, net, pieces }: Row) => [
    day === null ? null : isoDay(day),
    shop || null,
    line,
    net,
    pieces,
  ];
  const [one, other] = [cells(a), cells(b)];
  for (const [i, value] of one.entries()) {
    const against = other[i]!;
    if (value === against) continue;
    if (value === null || against === null) return value === null ? 1 : -1;
    return value < against ? -1 : 1;
  }
  return 0;
}

describe.skipIf(!HAS_CLICKHOUSE)('ClickHouse (Debian’s package clickhouse-server), rows in two servers', () => {
  let cluster: Cluster;
  let engine: Engine;
  const started = async (): Promise<Engine> => {
    cluster = await startCluster();
    engine = {
      database: clickhouse('here', { keep: 0, url: cluster.url() }),
      ...clusterFiller(cluster),
    };
    return engine;
  };
  afterAll(async () => {
    await engine?.database.end();
    await cluster?.end();
  });

  agreesWithMemory(started, byColumns);
});
