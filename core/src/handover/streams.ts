/** What a page carries: bytes that are packed each by themselves. */
export type Streams = readonly Uint8Array[];

/** Streams in one frame: how many there are, the length of each, in four bytes, the largest first, and then the streams. */
export function framed(streams: Streams): Uint8Array {
  const whole = new Uint8Array(4 + streams.reduce((sum, { length }) => sum + 4 + length, 0));
  const view = new DataView(whole.buffer);
  view.setUint32(0, streams.length);
  let at = 4 * (1 + streams.length);
  streams.forEach((stream, i) => {
    view.setUint32(4 * (1 + i), stream.length);
    whole.set(stream, at);
    at += stream.length;
  });
  return whole;
}
