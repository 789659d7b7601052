/** How many different numbers there are, blanks (NaN) not counted; −0 and 0 are one. */
export function distinctNumbers(values: Float64Array): number {
  // An open hash table of the numbers themselves: a Set of boxed numbers takes ten times as long, and ends at 2²⁴ of them.
  let size = 1 << 10;
  let slots = new Float64Array(size).fill(NaN);
  let count = 0;
  const one = new Float64Array(1);
  const bits = new Uint32Array(one.buffer);
  const place = (value: number): number => {
    one[0] = value;
    let at = Math.imul(bits[0]! ^ Math.imul(bits[1]!, 0x9e3779b1), 0x85ebca6b);
    at = (at ^ (at >>> 15)) & (size - 1);
    while (slots[at]! === slots[at]! && slots[at] !== value) at = (at + 1) & (size - 1);
    return at;
  };
  let last = NaN;
  for (let i = 0; i < values.length; i++) {
    const value = values[i]! + 0;
    if (value !== value || value === last) continue;
    last = value;
    const at = place(value);
    if (slots[at] === value) continue;
    slots[at] = value;
    count++;
    if (count * 2 <= size) continue;
    const old = slots;
    size *= 2;
    slots = new Float64Array(size).fill(NaN);
    for (let j = 0; j < old.length; j++) if (old[j]! === old[j]!) slots[place(old[j]!)] = old[j]!;
  }
  return count;
}
