import { textWidth, wrap, type Mark } from '../scene';
import { centred, textMark } from './shapes';

const LEGEND = { size: 11.5, leading: 20 } as const;

/** One entry of a legend: a small sample and its words. */
export interface LegendEntry {
  readonly words: string;
  /** Width of a sample that is wider than the others. */
  readonly wide?: number;
  /** What a band means: the first to be given up. */
  readonly isBand?: true;
  /** Marks of the sample in a box of 16 × 12 pixels whose left middle is given. */
  sample(x: number, y: number): Mark[];
}

const sampleRoom = ({ wide = 16 }: LegendEntry) => (wide === 0 ? 0 : wide + 6);

/** Two entries of one key say the same by the same sample. Empty for sentences, which speak of one figure. */
export function legendKey(entry: LegendEntry): string {
  const marks = entry.sample(0, 0);
  // Which rule a sample belongs to is of its figure.
  return marks.length === 0 ? '' : `${entry.words} ${JSON.stringify(marks.map(({ rule: _, ...mark }) => mark))}`;
}

/** Entries beside one another, in as many lines as they need. `marks` for those that begin at a place. */
export function legendLines(entries: readonly LegendEntry[], width: number) {
  const places: { entry: LegendEntry; texts: readonly string[]; x: number; line: number }[] = [];
  let x = 0;
  let line = 0;
  for (const entry of entries) {
    const room = sampleRoom(entry) + textWidth(entry.words, LEGEND.size);
    if (x > 0 && x + room > width) {
      x = 0;
      line++;
    }
    // What is wider than the paper goes on in further lines.
    const texts = wrap(entry.words, width - sampleRoom(entry), LEGEND.size, 400, 3);
    places.push({ entry, texts, x, line });
    line += texts.length - 1;
    x = texts.length > 1 ? width : x + room + 18;
  }
  return {
    height: entries.length === 0 ? 0 : (line + 1) * LEGEND.leading + 2,
    marks: (from: number, top: number): Mark[] =>
      places.flatMap(({ entry, texts, x: left, line: at }) => {
        const y = top + at * LEGEND.leading + 8;
        return [
          ...entry.sample(from + left, y),
          ...texts.map((text, i) =>
            textMark(
              'legend',
              text,
              from + left + sampleRoom(entry),
              centred(y + i * LEGEND.leading, LEGEND.size),
              LEGEND.size,
            ),
          ),
        ];
      }),
  };
}
