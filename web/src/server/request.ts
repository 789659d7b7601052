import { drawInTurn, LIMITS, refused, Refused } from './drawing';
import type { Asks, SentRequest } from './wish';

/** Answers a request to draw or to compute: a bundle as `application/zip`, or `application/json` with report and tables. */
export async function answer(request: Request, asks: Asks): Promise<Response> {
  try {
    const { type, body } = await drawInTurn(await sentIn(request, asks));
    return new Response(body as BodyInit, { headers: { 'Content-Type': type, 'Cache-Control': 'no-store' } });
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    const { status, refusal } = error;
    return Response.json(refusal, { status, headers: { ...(status === 503 ? { 'Retry-After': '5' } : {}) } });
  }
}

async function sentIn(request: Request, asks: Asks): Promise<SentRequest> {
  const type = (request.headers.get('content-type') ?? '').split(';')[0]!.trim().toLowerCase();
  const isBundle = type === 'application/zip';
  if (!isBundle && type !== 'application/json')
    throw refused(
      415,
      'unknown-type',
      `a body of type “${type.slice(0, 80)}” is not read`,
      'send a bundle as application/zip, or report and tables as application/json',
    );
  const bytes = await bodyOf(request);
  const query = Object.fromEntries(new URL(request.url).searchParams);
  // Nothing is taken apart here: that is the work of a thread that can be ended.
  return { asks, kind: isBundle ? 'bundle' : 'json', bytes, query };
}

/** Bytes of bodies that are being read. */
let beingRead = 0;

/** The body of a request, unless it is larger than is read, or too much is being read already. */
export async function bodyOf(request: Request): Promise<Uint8Array> {
  const tooLarge = () =>
    refused(
      413,
      'too-large',
      `the body is larger than ${LIMITS.body / 1e6} MB`,
      'send fewer rows, or draw at the command line',
    );
  const length = Number(request.headers.get('content-length') ?? 0);
  if (length > LIMITS.body) throw tooLarge();
  const parts: Uint8Array[] = [];
  let size = 0;
  let isLate = false;
  const reader = request.body?.getReader();
  // Whoever sends nothing more is let go of, too: only what has arrived is counted, whatever was said of it.
  const timer = setTimeout(() => {
    isLate = true;
    void reader?.cancel().catch(() => {});
  }, LIMITS.sending);
  try {
    while (reader) {
      const { done, value } = await reader.read();
      if (isLate)
        throw refused(408, 'too-slow', `it was not sent within ${LIMITS.sending / 1000} seconds`, 'send it once more');
      if (done) break;
      if (size + value.length > LIMITS.body) throw tooLarge();
      if (beingRead + value.length > LIMITS.beingRead)
        throw refused(503, 'busy', 'too much is being sent at once', 'ask again in a few seconds');
      size += value.length;
      beingRead += value.length;
      parts.push(value);
    }
  } catch (error) {
    await reader?.cancel().catch(() => {});
    throw error;
  } finally {
    clearTimeout(timer);
    beingRead -= size;
  }
  const whole = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
