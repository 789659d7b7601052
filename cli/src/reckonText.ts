import { rowKey, type Drawn } from '@bold-ruler/core/figure';
import { didYouMean, Problem } from '@bold-ruler/core/problem';
import { sumWords, type Reckoning } from '@bold-ruler/core/reckoning';

/** The row of a figure that `field=member` pairs and a step name. Throws a `Problem` that offers what there is. */
export function rowAt({ rows: cells }: Drawn, pairs: readonly string[], step: string | undefined): number {
  const wanted = pairs.map((pair): readonly [string, string] => {
    const at = pair.indexOf('=');
    const field = pair.slice(0, at);
    if (at < 1 || !cells.fields.includes(field))
      throw new Problem(
        'usage',
        `“${pair}” names no field of the figure`,
        undefined,
        cells.fields.length > 0 ? `write --at "${cells.fields[0]}=…"` : 'the figure has no fields; leave out --at',
      );
    return [field, pair.slice(at + 1)];
  });
  const keys = Array.from({ length: cells.count }, (_, row) => rowKey(cells, row));
  const row = keys.findIndex(
    (one) =>
      wanted.every(([field, member]) => (one.key[field] ?? '') === member) && (step === undefined || one.step === step),
  );
  if (row >= 0) return row;
  const [field, member] = wanted[0] ?? ['', ''];
  const there = field === '' ? keys.map((one) => one.step ?? '') : keys.map(({ key }) => key[field] ?? '');
  throw new Problem(
    'no-such-row',
    `the figure has no row at ${[...pairs, ...(step === undefined ? [] : [step])].join(', ')}`,
    undefined,
    didYouMean(field === '' ? (step ?? '') : member, [...new Set(there)], 'row'),
  );
}

/** A reckoning for people: its sentences, each with its arithmetic beneath. */
export function reckonText({ title, sentences }: Reckoning): string {
  const lines = sentences.flatMap((sentence, i) => {
    const sum = sumWords(sentence);
    return [`${i + 1}. ${sentence.text}`, ...(sum === null ? [] : [`   ${sum}`])];
  });
  return `${title}\n${lines.join('\n')}\n`;
}
