import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { SentRequest } from './wish';

// A request on its way to a drawing: what is taken, what is refused, and what is counted meanwhile.

const asked: SentRequest[] = [];
let drawn: () => Promise<{ type: string; body: string }> = async () => ({ type: 'image/svg+xml', body: '<svg/>' });
vi.mock('./drawing', () => {
  class Refused extends Error {
    constructor(
      readonly status: number,
      readonly refusal: { code: string; message: string; remedy: string | null },
    ) {
      super(refusal.message);
    }
  }
  return {
    LIMITS: { body: 1_000, beingRead: 1_500, sending: 30_000 },
    Refused,
    refused: (status: number, code: string, message: string, remedy: string | null = null) =>
      new Refused(status, { code, message, remedy }),
    drawInTurn: (sent: SentRequest) => {
      asked.push(sent);
      return drawn();
    },
  };
});
const { answer } = await import('./request');
const { refused } = await import('./drawing');

const request = (body: BodyInit | null, type: string | null = 'application/json', query = '') =>
  new Request(`http://localhost/api/draw${query}`, {
    method: 'POST',
    body,
    ...(type === null ? {} : { headers: { 'Content-Type': type } }),
    duplex: 'half',
  } as RequestInit);
const codeOf = async (response: Response) => [response.status, ((await response.json()) as { code: string }).code];

beforeEach(() => {
  asked.length = 0;
  drawn = async () => ({ type: 'image/svg+xml', body: '<svg/>' });
});

describe('a request to draw', () => {
  test('is handed on untouched, and answered with its type, not to be kept', async () => {
    const response = await answer(
      request('{"report":{}}', 'application/json; charset=utf-8', '?format=png&scale=2'),
      'draw',
    );
    expect([response.status, response.headers.get('content-type'), response.headers.get('cache-control')]).toEqual([
      200,
      'image/svg+xml',
      'no-store',
    ]);
    expect(await response.text()).toBe('<svg/>');
    const [sent] = asked;
    expect([sent!.asks, sent!.kind, sent!.query]).toEqual(['draw', 'json', { format: 'png', scale: '2' }]);
    expect(new TextDecoder().decode(sent!.bytes)).toBe('{"report":{}}');
  });

  test('may be a bundle, in as many parts as it comes', async () => {
    const parts = new ReadableStream({
      start(controller) {
        for (const part of ['PK', '\u0003', '\u0004 and more']) controller.enqueue(new TextEncoder().encode(part));
        controller.close();
      },
    });
    expect((await answer(request(parts, 'application/zip'), 'numbers')).status).toBe(200);
    expect([asked[0]!.kind, asked[0]!.asks, new TextDecoder().decode(asked[0]!.bytes)]).toEqual([
      'bundle',
      'numbers',
      'PK\u0003\u0004 and more',
    ]);
  });

  test.each([null, 'text/plain', 'application/x-www-form-urlencoded', `a/${'b'.repeat(500)}`])(
    'of the type %s is refused',
    async (type) => {
      const response = await answer(request('x', type), 'draw');
      expect(await codeOf(response)).toEqual([415, 'unknown-type']);
      expect(asked).toEqual([]);
    },
  );

  test('that is larger than is read is refused, whether it says so or not', async () => {
    expect(await codeOf(await answer(request('x'.repeat(1_001)), 'draw'))).toEqual([413, 'too-large']);
    const endless = new ReadableStream({
      pull(controller) {
        controller.enqueue(new Uint8Array(400));
      },
    });
    expect(await codeOf(await answer(request(endless), 'draw'))).toEqual([413, 'too-large']);
    expect(asked).toEqual([]);
  });

  test('without a body is handed on as it is', async () => {
    expect((await answer(request(null), 'draw')).status).toBe(200);
    expect(asked[0]!.bytes.length).toBe(0);
  });
});

test('bodies that are being read are counted together, and forgotten when they are read or refused', async () => {
  let finish = () => {};
  const slow = new ReadableStream({
    start(controller) {
      controller.enqueue(new Uint8Array(900));
      finish = () => controller.close();
    },
  });
  const first = answer(request(slow), 'draw');
  await new Promise(setImmediate);
  const second = await answer(request('x'.repeat(900)), 'draw');
  expect(await codeOf(second)).toEqual([503, 'busy']);
  expect(second.headers.get('retry-after')).toBe('5');
  finish();
  expect((await first).status).toBe(200);
  for (let i = 0; i < 5; i++) expect((await answer(request('x'.repeat(900)), 'draw')).status).toBe(200);
});

test('who says that much comes and sends nothing holds nobody up, and is let go of after a while', async () => {
  vi.useFakeTimers();
  try {
    const silent = () =>
      new Request('http://localhost/api/draw', {
        method: 'POST',
        body: new ReadableStream({ start: (controller) => controller.enqueue(new Uint8Array(1)) }),
        headers: { 'Content-Type': 'application/json', 'Content-Length': '1000' },
        duplex: 'half',
      } as RequestInit);
    const held = [1, 2, 3, 4].map(() => answer(silent(), 'draw'));
    expect((await answer(request('x'.repeat(900)), 'draw')).status).toBe(200);
    await vi.advanceTimersByTimeAsync(30_000);
    for (const one of held) expect(await codeOf(await one)).toEqual([408, 'too-slow']);
    expect((await answer(request('x'.repeat(900)), 'draw')).status).toBe(200);
  } finally {
    vi.useRealTimers();
  }
});

test('a drawing that refuses is told with its status, one that fails is not hidden', async () => {
  drawn = () => Promise.reject(refused(422, 'unknown-figure', 'there is no figure “x”', 'ask for another'));
  expect(await codeOf(await answer(request('{}'), 'draw'))).toEqual([422, 'unknown-figure']);
  drawn = () => Promise.reject(new TypeError('a fault of ours'));
  await expect(answer(request('{}'), 'draw')).rejects.toThrow('a fault of ours');
});
