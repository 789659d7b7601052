export { sqlSource } from './sqlSource';
export { tableInSql, type TableInSql } from './tableInSql';
export { type Database, type DatabaseColumn, type Statement } from './database';
export { type SqlDialect } from './dialect';
export { CLICKHOUSE, clickhouseColumn } from './clickhouse';
export { POSTGRESQL } from './postgresql';
