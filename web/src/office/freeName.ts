/** A name no other has. */
export function freeName(name: string, taken: readonly string[]): string {
  const has = (one: string) => taken.some((other) => other.toLowerCase() === one.toLowerCase());
  if (!has(name)) return name;
  for (let n = 2; ; n++) if (!has(`${name} ${n}`)) return `${name} ${n}`;
}
