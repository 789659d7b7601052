/**
 * Lets so many do something at a time; the others wait, the first come first, for as long as it takes.
 * @returns runs work in its turn; work that is left before its turn rejects with what `left` gives
 */
export function queue(atOnce: number, left: () => unknown) {
  let running = 0;
  const waiting: (() => void)[] = [];
  const turn = (signal?: AbortSignal) =>
    new Promise<void>((go, fail) => {
      const begin = () => {
        signal?.removeEventListener('abort', leave);
        running++;
        go();
      };
      const leave = () => {
        waiting.splice(waiting.indexOf(begin), 1);
        fail(left());
      };
      if (signal?.aborted) fail(left());
      else if (running < atOnce) begin();
      else {
        signal?.addEventListener('abort', leave, { once: true });
        waiting.push(begin);
      }
    });
  return async <T>(work: () => Promise<T>, signal?: AbortSignal): Promise<T> => {
    await turn(signal);
    try {
      return await work();
    } finally {
      running--;
      waiting.shift()?.();
    }
  };
}
