import { AsyncLocalStorage } from 'node:async_hooks';

const asking = new AsyncLocalStorage<AbortSignal>();

/** Whatever databases are asked during some work is left as soon as a signal says that nobody waits for it. */
export const whileWanted = <T>(signal: AbortSignal, work: () => Promise<T>): Promise<T> => asking.run(signal, work);

/** What is begun now is awaited by others, too: it is not left with the one who asked first. */
export const forAll = <T>(work: () => Promise<T>): Promise<T> => asking.exit(work);

/** The signal under which is asked now; null where nobody leaves. */
export const wanted = (): AbortSignal | null => asking.getStore() ?? null;
