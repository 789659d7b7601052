/** A word of a brief, a comma, or a name in double quotes, with its place `[from, to)`. */
export interface Token {
  readonly kind: 'word' | 'quoted' | 'comma';
  /** The word, the comma, or what the quotes hold. */
  readonly text: string;
  readonly from: number;
  readonly to: number;
  /** False for a quote that is never closed. */
  readonly closed: boolean;
}

/** Splits a brief at spaces, commas and double quotes; a doubled quote inside quotes stands for one. */
export function tokensOf(text: string): Token[] {
  const tokens: Token[] = [];
  const pattern = /"((?:[^"]|"")*)("?)|,|[^\s,"]+/g;
  for (let match = pattern.exec(text); match; match = pattern.exec(text)) {
    const from = match.index;
    const to = pattern.lastIndex;
    if (match[1] !== undefined)
      tokens.push({ kind: 'quoted', text: match[1].replaceAll('""', '"'), from, to, closed: match[2] === '"' });
    else tokens.push({ kind: match[0] === ',' ? 'comma' : 'word', text: match[0], from, to, closed: true });
  }
  return tokens;
}
