/** A name no other has. */
export function freeName(name: string, taken: readonly string[]): string {
  const has = (one: string) => taken.some((other) => other.toLowerCase() === one.toLowerCase());
  if (!has(name)) return name;
  for (let n = 2; ; n++) if (!has(`${name} ${n}`)) return `${name} ${n}`;
}

/** @returns the first id of the form f1, f2, … that is not taken, counting on from how many there are */
export function freeId(letter: string, taken: readonly string[]): string {
  for (let n = taken.length + 1; ; n++) if (!taken.includes(`${letter}${n}`)) return `${letter}${n}`;
}
