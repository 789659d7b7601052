/**
 * A pattern of SQL's `like` as a test: `%` stands for any text, `_` for one character. The parts between the `%` are looked for
 * from left to right, each where it first stands, so that no text makes it try again and again.
 */
export function likeTest(pattern: string): (text: string) => boolean {
  // Only `_` has to know where a character ends.
  return pattern.includes('_') ? byCharacters(pattern) : byTexts(pattern);
}

const byTexts = (pattern: string) => textsInTurn(pattern.split('%') as [string, ...string[]]);

/** A test for texts that begin with the first of some parts, end with the last, and hold the others between them in their order. */
export function textsInTurn([first, ...parts]: readonly [string, ...string[]]): (text: string) => boolean {
  const last = parts.pop();
  if (last === undefined) return (text) => text === first;
  return (text) => {
    if (text.length < first.length + last.length || !text.startsWith(first) || !text.endsWith(last)) return false;
    const end = text.length - last.length;
    let at = first.length;
    for (const part of parts) {
      const found = text.indexOf(part, at);
      if (found < 0 || found + part.length > end) return false;
      at = found + part.length;
    }
    return true;
  };
}

const stands = (part: readonly string[], text: readonly string[], at: number) =>
  part.every((one, i) => one === '_' || one === text[at + i]);

function byCharacters(pattern: string): (text: string) => boolean {
  const [first, ...parts] = pattern.split('%').map((part) => Array.from(part)) as [string[], ...string[][]];
  const last = parts.pop();
  return (whole) => {
    const text = Array.from(whole);
    if (last === undefined) return text.length === first.length && stands(first, text, 0);
    const end = text.length - last.length;
    if (end < first.length || !stands(first, text, 0) || !stands(last, text, end)) return false;
    let at = first.length;
    for (const part of parts) {
      while (at + part.length <= end && !stands(part, text, at)) at++;
      if (at + part.length > end) return false;
      at += part.length;
    }
    return true;
  };
}
