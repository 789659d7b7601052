export { sqlSource } from './sqlSource';
export { tableInSql, type TableInSql } from './tableInSql';
export { quoted, type Database, type DatabaseColumn, type Statement } from './database';
