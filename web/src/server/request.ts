import { mixed, number, object, string, ValidationError } from 'yup';
import { draw, LIMITS, refused, Refused, type Drawing } from './drawing';

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

/** Answers a request to draw or to compute: a bundle as `application/zip`, or `application/json` with report and tables. */
export async function answer(request: Request, asks: Drawing['asks']): Promise<Response> {
  try {
    const drawing = await drawingOf(request, asks);
    const { type, body } = await draw(drawing);
    return new Response(body as BodyInit, { headers: { 'Content-Type': type, 'Cache-Control': 'no-store' } });
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    const { status, refusal } = error;
    return Response.json(refusal, { status, headers: { ...(status === 503 ? { 'Retry-After': '5' } : {}) } });
  }
}

async function drawingOf(request: Request, asks: Drawing['asks']): Promise<Drawing> {
  const type = (request.headers.get('content-type') ?? '').split(';')[0]!.trim().toLowerCase();
  const isBundle = type === 'application/zip';
  if (!isBundle && type !== 'application/json')
    throw refused(
      415,
      'unknown-type',
      `a body of type “${type}” is not read`,
      'send a bundle as application/zip, or report and tables as application/json',
    );
  const bytes = await bodyOf(request);
  const query = Object.fromEntries(new URL(request.url).searchParams);
  try {
    if (isBundle) return { asks, content: { kind: 'bundle', bytes }, ...wish(query, asks) };
    let value: unknown;
    try {
      value = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
    } catch {
      throw refused(400, 'broken-json', 'the body is no JSON in UTF-8');
    }
    const { report, tables, ...wished } = body.validateSync(value, { strict: true });
    const content = { kind: 'report' as const, report: JSON.stringify(report), tables: tables ?? {} };
    return { asks, content, ...wish({ ...query, ...wished }, asks) };
  } catch (error) {
    if (error instanceof ValidationError) throw refused(400, 'wrong-request', error.message, 'see docs/openapi.json');
    throw error;
  }
}

function wish(value: Record<string, unknown>, asks: Drawing['asks']) {
  const { figure, brief, format, scale } = asked(FORMATS[asks]).validateSync(value);
  if ((figure === undefined) === (brief === undefined))
    throw refused(
      400,
      'wrong-request',
      'one of figure and brief must be given',
      'name a figure of the report, or write a brief',
    );
  return { figure: figure ?? null, brief: brief ?? null, format, scale };
}

/** The body of a request, unless it is larger than is read. */
async function bodyOf(request: Request): Promise<Uint8Array> {
  const tooLarge = () =>
    refused(
      413,
      'too-large',
      `the body is larger than ${LIMITS.body / 1e6} MB`,
      'send fewer rows, or draw at the command line',
    );
  if (Number(request.headers.get('content-length') ?? 0) > LIMITS.body) throw tooLarge();
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const part of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    size += part.length;
    if (size > LIMITS.body) throw tooLarge();
    parts.push(part);
  }
  const whole = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
