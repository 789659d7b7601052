import { INK, QUIET } from '../highlight';
import { legendLines, type LegendEntry } from '../figure';
import { textWidth, wrap, type Mark, type Part, type Scene, type Weight } from '../scene';

type TextPart = Exclude<Part['as'], 'cell'>;

/** Many lines of a text block are shown; more would be no page. */
const MOST_LINES = 200;

interface Setting {
  readonly size: number;
  readonly leading: number;
  readonly weight: Weight;
  readonly ink: string;
}

const TITLE: Setting = { size: 28, leading: 34, weight: 600, ink: INK };
const SUBTITLE: Setting = { size: 13.5, leading: 20, weight: 400, ink: QUIET };
const HEAD: Setting = { size: 18, leading: 24, weight: 600, ink: INK };
const FOOT: Setting = { size: 11.5, leading: 15, weight: 400, ink: QUIET };
const LEAD: Setting = { size: 16, leading: 23, weight: 600, ink: INK };
const BODY: Setting = { size: 15, leading: 22, weight: 400, ink: INK };

function line(text: string, x: number, y: number, { size, weight, ink }: Setting, part: Part): Mark {
  return {
    shape: 'text',
    role: 'label',
    key: {},
    step: null,
    value: null,
    rule: null,
    text,
    x,
    y,
    size,
    weight,
    anchor: 'start',
    paint: { fill: ink },
    part,
  };
}

function sceneOf(title: string, width: number, height: number, marks: Mark[]): Scene {
  return { width, height, title, description: title, rulers: [], marks, dropped: 0 };
}

/** Texts under one another, each in lines that fit. */
function set(texts: readonly (readonly [text: string, setting: Setting, as: TextPart])[], width: number, top = 0) {
  const marks: Mark[] = [];
  let y = top;
  for (const [nth, [text, setting, as]] of texts.entries())
    for (const words of wrap(text, width, setting.size, setting.weight, MOST_LINES)) {
      const baseline = y + setting.size + (setting.leading - setting.size) * 0.4;
      marks.push(line(words, 0, baseline, setting, { as, nth }));
      y += setting.leading;
    }
  return { marks, bottom: y };
}

/** The page's own title, with what it is about beneath. */
export function titleScene(title: string, about: string, width: number): Scene {
  const { marks, bottom } = set(
    [
      [title, TITLE, 'title'],
      [about, SUBTITLE, 'paragraph'],
    ],
    width,
  );
  return { ...sceneOf(title, width, bottom, marks), description: about };
}

/** What the inks and shapes of its figures mean, and where the page's numbers come from. */
export function footScene(text: string, entries: readonly LegendEntry[], width: number): Scene {
  const legend = legendLines(entries, width);
  const { marks, bottom } = set([[text, FOOT, 'paragraph']], width, legend.height);
  return sceneOf(text, width, bottom, [...legend.marks(0, 0), ...marks]);
}

/** The heading of a section: a bold line over its words. */
export function headScene(head: string, width: number): Scene {
  const { marks, bottom } = set([[head, HEAD, 'title']], width, 9);
  const rule: Mark = {
    shape: 'rect',
    role: 'label',
    key: {},
    step: null,
    value: null,
    rule: null,
    x: 0,
    y: 0,
    width,
    height: 3,
    paint: { fill: INK },
  };
  return sceneOf(head, width, bottom, [rule, ...marks]);
}

/** Paragraphs; lines that begin with “# ” are set as a heading, those with “- ” as a list. */
export function textScene(text: string, width: number): Scene {
  const marks: Mark[] = [];
  let y = 0;
  for (const [nth, paragraph] of text.split('\n').entries()) {
    const head = /^#\s+/.exec(paragraph)?.[0];
    if (head !== undefined) {
      for (const words of wrap(paragraph.slice(head.length), width, LEAD.size, LEAD.weight, MOST_LINES)) {
        marks.push(line(words, 0, y + LEAD.size + 2.8, LEAD, { as: 'heading', nth }));
        y += LEAD.leading;
      }
      y += 4;
      continue;
    }
    const item = /^\s*[-–•]\s+/.exec(paragraph)?.[0];
    const indent = item === undefined ? 0 : textWidth('–  ', BODY.size);
    const lines = wrap(
      item === undefined ? paragraph : paragraph.slice(item.length),
      width - indent,
      BODY.size,
      400,
      MOST_LINES,
    );
    const part = { as: item === undefined ? 'paragraph' : 'item', nth } as const;
    if (item !== undefined) marks.push(line('–', 0, y + BODY.size + 2.8, BODY, part));
    for (const words of lines) {
      marks.push(line(words, indent, y + BODY.size + 2.8, BODY, part));
      y += BODY.leading;
    }
    y += lines.length === 0 ? BODY.leading / 2 : 4;
  }
  return sceneOf(text, width, Math.max(BODY.leading, y), marks);
}
