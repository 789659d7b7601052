/** Finds something when it is first asked for, and keeps it. */
export function once<T>(find: () => T): () => T {
  let found: { readonly value: T } | null = null;
  return () => (found ??= { value: find() }).value;
}

/** A map whose values are found one by one, when they are asked for. */
export function lazyMap<K, V>(entries: readonly (readonly [K, () => V])[]): ReadonlyMap<K, V> {
  return new LazyMap(new Map(entries.map(([key, find]) => [key, once(find)])));
}

class LazyMap<K, V> implements ReadonlyMap<K, V> {
  constructor(private readonly finders: ReadonlyMap<K, () => V>) {}
  get size(): number {
    return this.finders.size;
  }
  get(key: K): V | undefined {
    return this.finders.get(key)?.();
  }
  has(key: K): boolean {
    return this.finders.has(key);
  }
  keys(): MapIterator<K> {
    return this.finders.keys();
  }
  values(): MapIterator<V> {
    return this.found().values();
  }
  entries(): MapIterator<[K, V]> {
    return this.found().entries();
  }
  [Symbol.iterator](): MapIterator<[K, V]> {
    return this.entries();
  }
  forEach(each: (value: V, key: K, map: ReadonlyMap<K, V>) => void): void {
    for (const [key, value] of this) each(value, key, this);
  }
  private found(): Map<K, V> {
    return new Map([...this.finders].map(([key, find]) => [key, find()]));
  }
}
