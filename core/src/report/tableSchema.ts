import * as yup from 'yup';
import { GRAINS } from '../calendar';
import { flag, name, number, object, oneOf, text } from '../shape';
import type { Same } from '../table';

/** Names that are told apart by their text, without regard to case. */
export const distinct =
  (key: string, what: string) =>
  (items: readonly unknown[] | undefined, context: yup.TestContext): true | yup.ValidationError => {
    const seen = new Set<string>();
    for (const item of items ?? []) {
      const value = String((item as Record<string, unknown> | null)?.[key] ?? '').toLowerCase();
      if (seen.has(value)) return context.createError({ message: `\${path} has two ${what} called “${value}”` });
      seen.add(value);
    }
    return true;
  };

/** An object of names, whatever they are. */
export const isPlain = (value: unknown): value is object =>
  value !== null && typeof value === 'object' && !Array.isArray(value);

const column = object({
  name: text(500),
  header: yup.string().max(500),
  type: oneOf(['text', 'number', 'date', 'yesno']),
  read: yup.string().max(60),
  order: yup.array().of(yup.string().defined().max(500)).max(100_000),
  orderBy: yup.string().max(500),
  out: flag(true),
});

const rowOrColumns = yup.lazy((value: unknown) =>
  Array.isArray(value)
    ? yup.array().of(yup.string().required().max(500)).min(1, '${path} needs a column').max(50).required()
    : oneOf(['row']).required('${path} must be “row” or names of columns'),
);

/** Names may be any text, also one that objects know. */
const same = yup
  .mixed<Same>()
  .test(
    'names',
    '${path} must be names and what they are read as, by column: { "rep": { "N. Ohara": "Nils Ohara" } }',
    (value) =>
      value === undefined ||
      (isPlain(value) &&
        Object.values(value).every(
          (of) => isPlain(of) && Object.values(of).every((meant) => typeof meant === 'string' && meant.length <= 500),
        )),
  );

const columnNames = () =>
  yup
    .array()
    .of(yup.string().required().max(500))
    .min(1, '${path} needs a column')
    .max(20)
    .required('${path} is missing');

const join = object({ columns: columnNames(), to: name(), on: columnNames(), since: yup.string().max(500) }).test(
  'as many',
  '${path} names as many columns in “columns” as in “on”',
  (value) => {
    // What is missing is told by its own key.
    const count = (names: unknown) => (Array.isArray(names) ? names.length : -1);
    return count(value.columns) < 0 || count(value.on) < 0 || count(value.columns) === count(value.on);
  },
);

/** A table or a query in a database: one of the two, and nothing of it beside a file. */
const databasePart = (part: 'table' | 'query') =>
  yup
    .string()
    .max(part === 'query' ? 20_000 : 500)
    .test('one', '${path}', (value, context) => {
      const { database, [part === 'query' ? 'table' : 'query']: other } = context.parent as Record<string, unknown>;
      const wrong = (message: string) => context.createError({ message });
      if (database === undefined) return value === undefined || wrong('${path} needs “database” beside it');
      if (value !== undefined && other !== undefined)
        return wrong('${path} stands beside another: “table” or “query” says it');
      if (value === undefined && other === undefined && part === 'table')
        return wrong('${path} is missing: of a database “table” or “query” is read');
      return true;
    });

/** What a report says of a table: where its rows come from, and what they are. */
export const table = object({
  id: name(),
  source: object({
    file: yup
      .string()
      .max(1000)
      .test('one', '${path} is missing', (value, context) => {
        const { files, database } = context.parent as Record<string, unknown>;
        const beside = files !== undefined ? 'files' : database !== undefined ? 'database' : null;
        if (beside === null) return value !== undefined && value !== '';
        const message = `\${path} stands beside “${beside}”: one of them says it`;
        return value === undefined || context.createError({ message });
      }),
    files: yup.lazy((value: unknown) =>
      Array.isArray(value)
        ? yup
            .array()
            .of(name().max(1000))
            .min(1)
            .max(500)
            .test('distinct', '${path} names a file twice', (files = []) => new Set(files).size === files.length)
        : yup
            .string()
            .max(1000)
            .test(
              'pattern',
              '${path} must name several files: a pattern such as sales/*.csv, or a list',
              (pattern) => pattern === undefined || pattern.includes('*'),
            ),
    ),
    database: yup
      .string()
      .max(100)
      .matches(
        /^[\w-]+$/,
        '${path} is a name of letters, digits, _ and -; where it is found is told where the program runs',
      ),
    table: databasePart('table'),
    query: databasePart('query'),
    sheet: yup.string().max(500),
    header: number().integer().min(0).max(10_000_000),
    delimiter: yup.string().length(1, '${path} must be one character'),
  }).required('${path} is missing'),
  date: yup.string().nullable().max(500),
  grain: oneOf(GRAINS),
  columns: yup.array().of(column).max(2000).test('distinct', distinct('name', 'columns')),
  leaveOut: yup.array().of(oneOf(['totals', 'notes']).required()),
  joins: yup.array().of(join).max(50),
  same,
  repeats: object({ by: rowOrColumns, keep: oneOf(['first', 'all']) }).default(undefined),
  long: object({ name: name(), value: yup.string().max(500) }).default(undefined),
  derived: yup
    .array()
    .of(object({ name: name(), expression: text() }))
    .max(500),
  rates: object({ currency: name(), rate: name() }).default(undefined),
});
