/** A change of a report that another tab has made. */
export interface ChangeElsewhere {
  readonly report: string;
  readonly changed: number;
  /** Its tables are others now. */
  readonly tables: boolean;
}

let channel: BroadcastChannel | null = null;
function tabs(): BroadcastChannel {
  channel ??= new BroadcastChannel('bold-ruler');
  return channel;
}

/** Tells the other tabs of a change that has been saved. */
export function tellTabs(change: ChangeElsewhere): void {
  tabs().postMessage(change);
}

export function onChangeElsewhere(listen: (change: ChangeElsewhere) => void): () => void {
  const take = ({ data }: MessageEvent<ChangeElsewhere>) => listen(data);
  tabs().addEventListener('message', take);
  return () => tabs().removeEventListener('message', take);
}
