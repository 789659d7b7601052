import { mixed, number, object, string, ValidationError } from 'yup';
import { Problem } from '@bold-ruler/core/problem';

/** What is asked for, and how. */
export type Asks = 'draw' | 'numbers';

/** A request's body and its query, as they came. */
export interface SentRequest {
  readonly asks: Asks;
  readonly kind: 'bundle' | 'json';
  readonly bytes: Uint8Array;
  readonly query: Readonly<Record<string, string>>;
}

export interface Wish {
  readonly content:
    | { readonly kind: 'bundle'; readonly bytes: Uint8Array }
    | { readonly kind: 'report'; readonly report: unknown; readonly tables: Readonly<Record<string, string>> };
  /** A figure of the report, or a brief for one that is not in it. */
  readonly figure: string | null;
  readonly brief: string | null;
  readonly format: string;
  readonly scale: number;
}

const FORMATS = { draw: ['svg', 'png', 'json'], numbers: ['json', 'csv'] } as const;

const asked = (formats: readonly string[]) =>
  object({
    figure: string().max(200),
    brief: string().max(4000),
    format: string()
      .oneOf(formats, `format must be one of ${formats.join(', ')}`)
      .default(formats[0]!),
    scale: number()
      .typeError('scale must be a number')
      .min(1, 'scale must be 1 to 8')
      .max(8, 'scale must be 1 to 8')
      .default(1),
  });

const body = object({
  report: mixed()
    .required('report is missing')
    .test('object', 'report must be the content of a report file', (value) => typeof value === 'object'),
  tables: mixed<Record<string, string>>().test(
    'texts',
    'tables must hold the text of each file by its name',
    (value) =>
      value === undefined ||
      (typeof value === 'object' &&
        value !== null &&
        !Array.isArray(value) &&
        Object.values(value).every((text) => typeof text === 'string')),
  ),
  figure: string().max(200),
  brief: string().max(4000),
  format: string(),
  scale: number(),
}).noUnknown(true, ({ unknown }: { unknown: string }) => `there is a key that is not known: ${unknown}`);

/** Reports lie no deeper, and have no more keys: what does is not taken apart. */
const MOST_DEEP = 100;
const MOST_KEYS = 200_000;

/** Counts how deep JSON lies and how many keys it has, before it is taken apart. Throws a `Problem` where that is too much. */
export function checkShape(bytes: Uint8Array): void {
  let [deep, keys] = [0, 0];
  let isText = false;
  for (let at = 0; at < bytes.length; at++) {
    const byte = bytes[at]!;
    if (isText) {
      if (byte === 0x5c) at++;
      else if (byte === 0x22) isText = false;
    } else if (byte === 0x22) isText = true;
    else if (byte === 0x7b || byte === 0x5b) deep++;
    else if (byte === 0x7d || byte === 0x5d) deep--;
    // Members of objects and of lists.
    else if (byte === 0x3a || byte === 0x2c) keys++;
    if (deep > MOST_DEEP || keys > MOST_KEYS)
      throw new Problem(
        'odd-shape',
        deep > MOST_DEEP
          ? `the body lies more than ${MOST_DEEP} deep`
          : `the body has more than ${MOST_KEYS.toLocaleString('en')} values`,
        undefined,
        'send the rows of tables as text',
      );
  }
}

/** What a request asks for. Throws a `Problem` with `wrong-request`, `broken-json` or `odd-shape`. */
export function wishOf({ asks, kind, bytes, query }: SentRequest): Wish {
  try {
    if (kind === 'bundle') return { content: { kind, bytes }, ...wished(query, asks) };
    checkShape(bytes);
    let value: unknown;
    try {
      value = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
    } catch {
      throw new Problem('broken-json', 'the body is no JSON in UTF-8');
    }
    const { report, tables, ...more } = body.validateSync(value, { strict: true });
    return { content: { kind: 'report', report, tables: tables ?? {} }, ...wished({ ...query, ...more }, asks) };
  } catch (error) {
    if (error instanceof ValidationError)
      throw new Problem('wrong-request', error.message, undefined, 'see docs/openapi.json');
    throw error;
  }
}

function wished(value: Readonly<Record<string, unknown>>, asks: Asks) {
  const { figure, brief, format, scale } = asked(FORMATS[asks]).validateSync(value);
  if ((figure === undefined) === (brief === undefined))
    throw new Problem(
      'wrong-request',
      'one of figure and brief must be given',
      undefined,
      'name a figure of the report, or write a brief',
    );
  return { figure: figure ?? null, brief: brief ?? null, format, scale };
}
