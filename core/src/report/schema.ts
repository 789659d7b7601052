import * as yup from 'yup';
import { ALIGNMENTS, FEWEST_MONTHS, LISTED_LENGTH, PATTERNS, readIsoDay, WEEKDAYS } from '../calendar';
import { commonOptions, lookOptions } from '../form';
import { checkOf, domain, flag, list, name, number, object, oneOf, text } from '../shape';
import { LIT_ON, REPORT_VERSION } from './report';
import { distinct, isPlain, table } from './tableSchema';

const day = () =>
  yup
    .string()
    .test('day', '${path} must be a day, YYYY-MM-DD', (value) => value === undefined || readIsoDay(value) !== null);

const calendar = object({
  fiscalYearStart: number()
    .integer()
    .min(1, '${path} must be a month, 1–12')
    .max(12, '${path} must be a month, 1–12')
    .default(1),
  fiscalYearNamed: oneOf(['end', 'start']).default('end'),
  weekStart: oneOf(['monday', 'sunday']).default('monday'),
  workweek: yup.array().of(oneOf(WEEKDAYS).required()).min(1, '${path} needs a day on which somebody works').max(7),
  holidays: yup.array().of(day().required()).max(5000),
  weeks: object({
    pattern: oneOf(PATTERNS).required('${path} is missing'),
    ends: oneOf(WEEKDAYS).required('${path} is missing'),
    on: oneOf(['last', 'nearest']).required('${path} is missing'),
    of: number()
      .integer()
      .min(1, '${path} must be a month, 1–12')
      .max(12, '${path} must be a month, 1–12')
      .required('${path} is missing'),
  }).default(undefined),
  months: object({
    first: yup
      .string()
      .required('${path} is missing')
      .matches(/^\d{4}-(0[1-9]|1[0-2])$/, '${path} must be a month, YYYY-MM'),
    from: yup
      .array()
      .of(day().required())
      .required('${path} is missing')
      .min(
        FEWEST_MONTHS + 1,
        `\${path} needs the first days of ${FEWEST_MONTHS} months at least, and the day after them`,
      )
      .max(2000)
      .test(
        'months',
        `\${path} must be days in order, each ${LISTED_LENGTH.min} to ${LISTED_LENGTH.max} days after the one before`,
        (days = []) =>
          days.every((text, i) => {
            const gone = i === 0 ? LISTED_LENGTH.min : (readIsoDay(text) ?? 0) - (readIsoDay(days[i - 1]!) ?? 0);
            return gone >= LISTED_LENGTH.min && gone <= LISTED_LENGTH.max;
          }),
      ),
  }).default(undefined),
  asOf: yup
    .string()
    .default('auto')
    .test(
      'as-of',
      '${path} must be “auto” or a day, YYYY-MM-DD',
      (value) => value === 'auto' || readIsoDay(value ?? '') !== null,
    ),
});

const currencyCode = () => yup.string().matches(/^[A-Z]{3}$/, '${path} must be a currency code of three letters');

/** How a number is written, whatever it is. */
const writing = {
  scale: oneOf(['auto', 'none', 'K', 'M', 'B']),
  decimals: number().integer().min(0).max(6, '${path} must be 0–6'),
  plus: flag(true),
  negative: oneOf(['minus', 'parentheses']),
  blank: yup.string().max(20),
  separators: oneOf(['point', 'comma', 'space']),
};
const numberFormat = object({
  style: oneOf(['number', 'currency', 'percent', 'points']).required('${path} is missing'),
  currency: currencyCode(),
  unit: yup.string().max(40),
  unitBefore: flag(true),
  ...writing,
});

/** How amounts of several currencies become one. */
const conversion = object({
  column: name(),
  rates: name(),
  to: currencyCode().required('${path} is missing'),
  at: yup
    .string()
    .matches(
      /^(?:own|\d{4}(?:-\d{2}(?:-\d{2})?)?)$/,
      '${path} must be “own”, for the rate of each row’s own period, or a day, a month or a fiscal year: 2026-03-31, 2026-03, 2026',
    )
    .default('own'),
  amounts: yup.array().of(name()).min(1).max(100),
}).default(undefined);

const measure = object({
  name: name(),
  table: name(),
  expression: text(),
  aim: oneOf(['raise', 'cut', 'hold']).default('raise'),
  tolerance: number().min(0, '${path} must not be negative').default(0),
  format: numberFormat.default({ style: 'number', scale: 'auto' }),
  currency: conversion,
});

const kindOf = (kind: string) => ({ name: name(), kind: oneOf([kind]).required() });
const back = yup.lazy((value: unknown) =>
  value !== null && typeof value === 'object' && 'years' in value
    ? object({ years: number().integer().min(1).max(100).required() })
    : object({ periods: number().integer().min(1).max(10_000).required('${path} must say years or periods') }),
);

const BENCHMARKS = {
  expression: object({ ...kindOf('expression'), expression: text(), table: name().optional() }),
  table: object({
    ...kindOf('table'),
    table: name(),
    expression: text(),
    spread: oneOf(['even', 'workdays', 'last year', 'none']).default('even'),
    split: oneOf(['none', 'even', 'last year']).default('none'),
    match: yup
      .mixed<Readonly<Record<string, string>>>()
      .test(
        'fields',
        '${path} must be fields and the columns they are matched with: { "rep": "Sales rep" }',
        (value) =>
          value === undefined ||
          (isPlain(value) && Object.values(value).every((column) => typeof column === 'string' && column !== '')),
      ),
    currency: conversion,
  }),
  fixed: object({
    ...kindOf('fixed'),
    value: number().required('${path} is missing'),
    per: yup.array().of(name()).max(3).default([]),
  }),
  scaled: object({ ...kindOf('scaled'), of: name(), by: number().required('${path} is missing') }),
  period: yup.lazy((value: unknown) => {
    const range = value !== null && typeof value === 'object' && 'range' in value;
    return object({
      ...kindOf('period'),
      ...(range ? { range: object({ from: day().required(), to: day().required() }).required() } : { back }),
      align: oneOf(ALIGNMENTS),
      activeDays: flag(true),
    });
  }),
  peers: object({
    ...kindOf('peers'),
    statistic: oneOf(['mean', 'median', 'lowest', 'highest', 'percentile']).required('${path} is missing'),
    percentile: number().min(0).max(100),
  }),
  forecast: object({
    ...kindOf('forecast'),
    method: oneOf([
      'same period last year',
      'seasonal naive',
      'linear',
      'average of last k',
      'run rate',
      'smoothing',
    ]).required('${path} is missing'),
    growth: number(),
    k: number().integer().min(1),
    season: oneOf(['additive', 'multiplicative']),
  }),
};

const benchmark = yup.lazy((value: unknown) => {
  const kind = (value as { kind?: unknown } | null)?.kind;
  if (typeof kind === 'string' && Object.hasOwn(BENCHMARKS, kind))
    return BENCHMARKS[kind as keyof typeof BENCHMARKS] as yup.Schema;
  return yup.object({ name: name(), kind: oneOf(Object.keys(BENCHMARKS)).required('${path} is missing') });
});

const ruler = object({
  id: name(),
  kind: oneOf(['linear', 'of benchmark']).required('${path} is missing'),
  fit: oneOf(['zero', 'symmetric', 'fixed', 'tight']).default('zero'),
  domain: domain(),
});

const ink = () => yup.string().matches(/^#[0-9a-fA-F]{6}$/, '${path} must be a colour such as #147560');
const rows = () => number().integer().min(1, '${path} must be 1 or more').required();

/** Which conditions go with what a highlight looks at. */
const when = (on: unknown) =>
  yup.lazy((value: unknown) => {
    const has = (key: string) => value !== null && typeof value === 'object' && key in value;
    if (on === 'standing') return object({ standing: oneOf(['ahead', 'level', 'behind']).required() }).required();
    if (on === 'member') return object({ members: list(yup.string().defined().max(500), 1000) }).required();
    if (has('highest')) return object({ highest: rows(), within: oneOf(['row']) });
    if (has('lowest')) return object({ lowest: rows(), within: oneOf(['row']) });
    return object({ from: number(), to: number() }).required('${path} is missing');
  });

/** Where a diverging ramp has its middle. */
const middle = () =>
  yup.lazy((value: unknown) =>
    typeof value === 'string' ? oneOf(['benchmark']).required() : number().required('${path} is missing'),
  );

const highlight = yup.lazy((value: unknown) =>
  object({
    name: name(),
    on: oneOf(LIT_ON).required('${path} is missing'),
    expression:
      (value as { on?: unknown } | null)?.on === 'expression'
        ? text(4000)
        : yup.mixed<never>().test('no expression', '${path} goes with “on”: “expression”', (one) => one === undefined),
    ramp: object({
      low: ink().required('${path} is missing'),
      high: ink().required('${path} is missing'),
      middle: object({ ink: ink().required('${path} is missing'), at: middle() }).default(undefined),
      ends: yup.array().of(number().required()).length(2, '${path} must be two numbers'),
    }).default(undefined),
    rules: list(
      object({
        id: name(),
        when: when((value as { on?: unknown } | null)?.on),
        encode: object({
          ink: ink(),
          edge: ink(),
          pattern: oneOf(['hatch', 'dots']),
          weight: oneOf(['bold']),
          badge: oneOf(['up', 'level', 'down']),
          fadeOthers: flag(true),
        }).required(),
        on: yup.boolean().default(true),
        reader: flag(true),
      }),
      50,
    ),
  }),
);

/** What every form takes of a look. */
const common = {
  title: yup.string().max(500),
  caption: yup.string().max(500),
  width: number().min(120, '${path} must be 120–8000 pixels').max(8000, '${path} must be 120–8000 pixels'),
  height: number().min(80, '${path} must be 80–20000 pixels').max(20_000, '${path} must be 80–20000 pixels'),
  domain: domain(),
  rank: oneOf(['competition', 'dense', 'ordinal']),
  window: oneOf(['trailing', 'preceding', 'centred']),
  format: object(writing).default(undefined),
};

/** The same with what the forms add, of which there may be more since. */
function lookSchema() {
  const options = lookOptions();
  if (!known || known.count !== options.length) {
    const own = Object.fromEntries([...commonOptions, ...options].map(({ key, shape }) => [key, checkOf(shape)]));
    known = { count: options.length, schema: object({ ...common, ...own }).default({}) };
  }
  return known.schema;
}
let known: { readonly count: number; readonly schema: yup.ISchema<unknown> } | null = null;

const figure = object({
  id: name(),
  name: yup.string().min(1).max(200),
  brief: text(4000),
  look: yup.lazy(() => lookSchema() as yup.AnySchema),
});

const share = () =>
  number()
    .required('${path} is missing')
    .integer('${path} must be a whole number of twelfths')
    .min(2, '${path} must be 2–12 twelfths')
    .max(12, '${path} must be 2–12 twelfths');

const member = () => yup.string().defined('${path} is missing').max(500);
const CLAIMS = {
  'largest gap': { member: member(), standing: oneOf(['ahead', 'behind']).required('${path} is missing') },
  'hidden offset': { member: member(), by: member() },
  'took the lead': { member: member(), from: member() },
  lands: { standing: oneOf(['ahead', 'level', 'behind']).required('${path} is missing') },
  'extreme member': { member: member() },
} as const;
const CLAIM_KINDS = Object.keys(CLAIMS) as (keyof typeof CLAIMS)[];
const claim = yup.lazy((value: unknown) => {
  const kind = (value as { kind?: unknown } | null)?.kind;
  const known = CLAIM_KINDS.find((one) => one === kind);
  return object({
    kind: oneOf(known ? [known] : CLAIM_KINDS).required('${path} is missing'),
    text: text(4000),
    ...(known ? CLAIMS[known] : {}),
  });
});

const block = yup.lazy((value: unknown) =>
  value !== null && typeof value === 'object' && 'figure' in value
    ? object({ figure: name(), share: share() }).required()
    : object({
        text: yup.string().defined('${path} is missing').max(4000),
        about: yup.string().max(200),
        claims: yup
          .array()
          .of(claim as unknown as yup.ISchema<unknown>)
          .max(50),
        share: share(),
      }).required(),
);

const pageRow = yup.lazy((value: unknown) =>
  value !== null && typeof value === 'object' && 'head' in value
    ? object({ head: text(200) }).required()
    : object({
        blocks: list(block as unknown as yup.ISchema<unknown>, 4)
          .min(1, '${path} needs one to four blocks')
          .test(
            'fits',
            '${path} take more than the twelve twelfths of a row',
            (blocks) =>
              ((blocks ?? []) as readonly ({ share?: number } | null)[]).reduce(
                (sum, one) => sum + (one?.share ?? 0),
                0,
              ) <= 12,
          ),
        height: number().min(120, '${path} must be 120–4000 pixels').max(4000, '${path} must be 120–4000 pixels'),
      }).required(),
);

const page = object({
  id: name(),
  title: text(200),
  filters: list(object({ field: name(), choice: oneOf(['one', 'several']).default('several') }), 12)
    .default([])
    .test('distinct', distinct('field', 'filters')),
  period: flag(true),
  rows: list(pageRow as unknown as yup.ISchema<unknown>, 100).default([]),
  dismissed: yup
    .array()
    .of(object({ figure: name(), kind: oneOf(CLAIM_KINDS).required('${path} is missing') }))
    .max(1000),
});

const empty = <T>(of: yup.ISchema<T>, key: string, what: string) =>
  list(of).default([]).test('distinct', distinct(key, what));

/** The report file, as in docs/formats.md. Unknown keys are refused at every depth. */
export const reportSchema = object({
  boldRuler: number().oneOf([REPORT_VERSION]).required('boldRuler is missing: this is not a report file'),
  name: name(),
  calendar: calendar.default({ fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday', asOf: 'auto' }),
  tables: empty(table, 'id', 'tables'),
  measures: empty(measure, 'name', 'measures'),
  benchmarks: empty(benchmark as unknown as yup.ISchema<unknown>, 'name', 'benchmarks'),
  rulers: empty(ruler, 'id', 'rulers'),
  highlights: empty(highlight as unknown as yup.ISchema<unknown>, 'name', 'highlights'),
  figures: empty(figure, 'id', 'figures'),
  pages: empty(page, 'id', 'pages'),
  hierarchies: yup
    .array()
    .of(
      yup
        .array()
        .of(name())
        .min(2, '${path} needs at least two fields')
        .max(12)
        .required()
        .test('fields', '${path} names a field twice', (levels) => new Set(levels).size === (levels ?? []).length),
    )
    .max(50),
  accepted: yup
    .array()
    .of(
      object({
        code: name(),
        about: oneOf(['figure', 'highlight', 'table', 'measure', 'benchmark', 'page', 'report']).required(
          '${path} is missing',
        ),
        id: text(1000),
        fact: text(1000).optional(),
        reason: text(1000),
      }),
    )
    .max(1000),
});
