import type { Report } from './report';

/** The text of a report's file: keys in a fixed order, two spaces, a line end at the end. */
export function writeReport(report: Report): string {
  return `${JSON.stringify(inOrder(report), null, 2)}\n`;
}

const KEY_ORDER = [
  'boldRuler',
  'name',
  'calendar',
  'tables',
  'measures',
  'benchmarks',
  'rulers',
  'highlights',
  'figures',
  'pages',
  'id',
  'kind',
  'source',
  'file',
  'table',
  'of',
  'expression',
  'on',
  'rules',
  'when',
  'standing',
  'encode',
  'ink',
  'badge',
  'date',
  'grain',
  'columns',
  'type',
  'read',
  'order',
  'derived',
  'fit',
  'domain',
  'fiscalYearStart',
  'fiscalYearNamed',
  'weekStart',
  'asOf',
  'aim',
  'tolerance',
  'format',
  'style',
  'currency',
  'scale',
  'decimals',
  'unit',
  'value',
  'per',
  'by',
  'back',
  'years',
  'periods',
  'range',
  'from',
  'to',
  'align',
  'activeDays',
  'statistic',
  'percentile',
  'method',
  'growth',
  'k',
  'season',
  'spread',
  'split',
  'match',
  'brief',
  'look',
  'title',
  'caption',
  'width',
  'height',
  'orientation',
  'bands',
  'edges',
  'names',
];
const PLACE = new Map(KEY_ORDER.map((key, i) => [key, i]));

/** The same data with keys in the file's order; keys of no fixed place (a match of fields) stand behind in their own. */
export function inOrder<T>(value: T): T {
  if (Array.isArray(value)) return value.map(inOrder) as T;
  if (value === null || typeof value !== 'object') return value;
  const entries = Object.entries(value).filter(([, inner]) => inner !== undefined);
  entries.sort(([a], [b]) => (PLACE.get(a) ?? Infinity) - (PLACE.get(b) ?? Infinity) || 0);
  return Object.fromEntries(entries.map(([key, inner]) => [key, inOrder<unknown>(inner)])) as T;
}
