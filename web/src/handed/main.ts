/** The program that a page as one file carries: its reader chooses, and every figure, text and working follows. Bundled by scripts/program.mjs. */
import { counted } from '@bold-ruler/core/problem';
import { periodFrom, pickedBack, pickedNext, wayDown, type Picked } from '@bold-ruler/core/brief';
import { rowKey } from '@bold-ruler/core/figure';
import {
  pageMarks,
  unpackTables,
  unreadBriefs,
  type Carried,
  type Chosen,
  type PageCell,
} from '@bold-ruler/core/handover';
import { drawPage, NOTHING_CHOSEN, type Reader } from '@bold-ruler/core/page';
import { belowOf } from '@bold-ruler/core/query';
import { reckon, sumWords } from '@bold-ruler/core/reckoning';
import { keyText } from '@bold-ruler/core/scene';
import { carriedWorkspace } from '@bold-ruler/core/workspace';

const ROWS_SHOWN = 25;
const BLANK = '(blank)';
const OWN = '';

const element = (id: string) => document.getElementById(id)!;
/** What the page's loader has unpacked. */
declare const carriedTables: readonly ArrayBuffer[];

function put<K extends keyof HTMLElementTagNameMap>(
  into: HTMLElement,
  tag: K,
  text = '',
  attributes: Readonly<Record<string, string>> = {},
): HTMLElementTagNameMap[K] {
  const made = document.createElement(tag);
  if (text !== '') made.textContent = text;
  for (const [name, value] of Object.entries(attributes)) made.setAttribute(name, value);
  into.append(made);
  return made;
}

const carried = JSON.parse(element('carried').textContent ?? '') as Omit<Carried, 'tables'> & {
  readonly chosen?: Chosen;
};
const desk = carriedWorkspace(
  carried.report,
  unpackTables(carriedTables.map((stream) => new Uint8Array(stream))),
  carried.names,
);
const page = carried.report.pages[0]!;
const unread = unreadBriefs(carried);
const svg = element('page') as unknown as SVGSVGElement;
const bar = element('choices');
const side = element('reckoning');
const wide = svg.width.baseVal.value;

const NOTHING: Chosen = { only: {}, period: OWN, switched: [], picked: null };

/** An address may say anything: what is not a way into a figure is none. */
function isPicked(one: unknown): one is Picked {
  const isStep = (step: Partial<Picked> | null) =>
    typeof step?.field === 'string' && (step.member === null || typeof step.member === 'string');
  const picked = one as Partial<Picked> | null;
  const { within = [] } = picked ?? {};
  return isStep(picked) && typeof picked?.figure === 'string' && Array.isArray(within) && within.every(isStep);
}

/** What is chosen stands in the address, so that it can be kept and sent. */
function fromAddress(): Chosen {
  if (location.hash === '') return carried.chosen ?? NOTHING;
  try {
    const {
      only = {},
      period = OWN,
      switched = [],
      picked = null,
    } = JSON.parse(decodeURIComponent(location.hash.slice(1)) || '{}') as Partial<Chosen>;
    // An address may say anything: what is not a choice is none.
    const isText = (one: unknown) => one === null || typeof one === 'string';
    const isList = (list: unknown) => Array.isArray(list) && list.every(isText);
    const known = Object.entries(only).filter(
      ([field, members]) => isList(members) && carried.fields.some((one) => one.field === field),
    );
    return {
      only: Object.fromEntries(known),
      period: typeof period === 'string' ? period : OWN,
      switched: isList(switched) ? switched : [],
      picked: isPicked(picked) ? picked : null,
    };
  } catch {
    return NOTHING;
  }
}

let choice = fromAddress();
let cells: readonly PageCell[] = [];
let asked = 0;

function readerOf({ only, period, switched, picked = null }: Chosen): Reader {
  const offered = carried.periods.some(({ text }) => text === period);
  return { ...NOTHING_CHOSEN, only, period: offered ? periodFrom(period) : null, switched, picked };
}

async function draw(): Promise<void> {
  const mine = ++asked;
  const width = Math.max(320, Math.min(wide, document.documentElement.clientWidth));
  const drawn = await drawPage({ source: desk.source, report: carried.report, vocabulary: desk.vocabulary }, page, {
    width,
    reader: readerOf(choice),
    unread,
  });
  if (mine !== asked) return;
  const marked = pageMarks(drawn, () => true);
  cells = marked.cells;
  // Written by the core, which lets nothing through that is not a mark or a text.
  svg.innerHTML = marked.svg;
  for (const mark of svg.querySelectorAll<SVGElement>('[data-r]')) {
    mark.setAttribute('role', 'button');
    mark.tabIndex = 0;
  }
  svg.setAttribute('width', String(drawn.width));
  svg.setAttribute('height', String(drawn.height));
  svg.setAttribute('viewBox', `0 0 ${drawn.width} ${drawn.height}`);
  for (const note of bar.querySelectorAll('p')) note.remove();
  for (const { scene, told } of drawn.placed) if (told.length > 0) put(bar, 'p', `${scene.title}: ${told.join('; ')}`);
}

function choose(next: Partial<Chosen>): void {
  choice = { ...choice, ...next };
  const isPlain =
    choice.period === OWN &&
    choice.switched.length === 0 &&
    !choice.picked &&
    Object.values(choice.only).every((one) => one.length === 0);
  history.replaceState(
    null,
    '',
    isPlain && !carried.chosen ? location.pathname : `#${encodeURIComponent(JSON.stringify(choice))}`,
  );
  fillBar();
  void draw();
}

const saying = (members: readonly (string | null)[]) =>
  members.length === 0
    ? 'all'
    : members.length === 1
      ? (members[0] ?? BLANK)
      : `${members[0] ?? BLANK} and ${members.length - 1} more`;

/** Which filter stays open while its members are chosen, and what is looked for in it. */
let opened: string | null = null;
let sought = '';

/** What a control is known by, so that it keeps the focus when the bar is made anew. */
const known = (...names: readonly string[]) => ({ 'data-known': JSON.stringify(names) });

/** Members whose names do not hold what is looked for step aside. */
function hideOthers(labels: readonly HTMLElement[], text: string): void {
  for (const label of labels) label.hidden = !label.textContent!.toLowerCase().includes(text.toLowerCase());
}

function fillBar(): void {
  const focused = document.activeElement?.getAttribute('data-known');
  bar.replaceChildren();
  for (const { field, choice: many, members } of carried.fields) {
    const chosen = choice.only[field] ?? [];
    const details = put(bar, 'details');
    details.open = opened === field;
    details.ontoggle = () => {
      if (details.open === (opened === field)) return;
      opened = details.open ? field : null;
      sought = '';
    };
    put(details, 'summary', `${field}: ${saying(chosen)}`, chosen.length > 0 ? { 'data-set': '' } : {});
    const list = put(details, 'div');
    const labels: HTMLLabelElement[] = [];
    if (members.length > 12) {
      const search = put(list, 'input', '', { type: 'search', 'aria-label': `Find a ${field}`, placeholder: 'Find' });
      search.value = opened === field ? sought : '';
      search.oninput = () => {
        sought = search.value;
        hideOthers(labels, sought);
      };
    }
    for (const text of members) {
      const member = text || null;
      const label = put(list, 'label');
      const box = put(label, 'input', '', {
        type: many === 'one' ? 'radio' : 'checkbox',
        name: field,
        ...known(field, text),
      });
      put(label, 'span', text || BLANK);
      labels.push(label);
      box.checked = chosen.includes(member);
      box.onchange = () => {
        const others = chosen.filter((one) => one !== member);
        choose({
          only: { ...choice.only, [field]: !box.checked ? others : many === 'one' ? [member] : [...others, member] },
        });
      };
    }
    if (opened === field) hideOthers(labels, sought);
  }
  if (carried.periods.length > 0) {
    const select = put(bar, 'select', '', { 'aria-label': 'period', ...known('period') });
    put(select, 'option', 'period: as each figure says', { value: OWN });
    for (const { text, name } of carried.periods) put(select, 'option', name, { value: text });
    select.value = choice.period;
    if (choice.period !== OWN) select.setAttribute('data-set', '');
    select.onchange = () => choose({ period: select.value });
  }
  for (const { id, name, on } of carried.switches) {
    const label = put(bar, 'label');
    const box = put(label, 'input', '', { type: 'checkbox', ...known('switch', id) });
    put(label, 'span', name);
    box.checked = on !== choice.switched.includes(id);
    box.onchange = () => {
      const others = choice.switched.filter((one) => one !== id);
      choose({ switched: others.length < choice.switched.length ? others : [...others, id] });
    };
  }
  const { picked } = choice;
  for (const [i, { field, member }] of picked ? [...(picked.within ?? []), picked].entries() : []) {
    const back = put(bar, 'button', `${i === 0 ? 'only ' : ''}${member ?? BLANK} ×`, { type: 'button', title: field });
    back.onclick = () => choose({ picked: pickedBack(picked!, i) });
  }
  if (Object.values(choice.only).some((one) => one.length > 0) || choice.period !== OWN || picked) {
    const all = put(bar, 'button', 'Show everything', { type: 'button' });
    all.onclick = () => choose({ only: {}, period: OWN, picked: null });
  }
  if (focused)
    for (const control of bar.querySelectorAll<HTMLElement>('[data-known]'))
      if (control.getAttribute('data-known') === focused) control.focus();
}

/** The working of a cell, and the first of its rows, as far as the file carries their columns. */
async function open(mark: SVGElement): Promise<void> {
  const at = cells[Number(mark.dataset['r'])];
  const drawn = at?.placed.drawn;
  if (!drawn) return;
  let row = -1;
  for (let i = 0; i < drawn.rows.count; i++) {
    if (keyText(rowKey(drawn.rows, i)) === keyText(at.cell)) row = i;
  }
  if (row < 0) return;
  const { title, sentences, behind } = await reckon({ source: desk.source, report: carried.report }, drawn, row);
  side.replaceChildren();
  put(side, 'h2', title);
  const close = put(side, 'button', 'Close', { type: 'button' });
  const fields = Object.entries(at.cell.key).filter(([field]) => carried.fields.some((one) => one.field === field));
  for (const [field, member] of fields) {
    const only = put(side, 'button', `Only ${member ?? BLANK}`, { type: 'button' });
    only.onclick = () => choose({ only: { ...choice.only, [field]: [member] } });
  }
  const { brief, isRest } = drawn.rows;
  const [field] = brief.by;
  const way = wayDown(
    brief,
    carried.report.hierarchies ?? [],
    belowOf({ source: desk.source, report: carried.report }, brief),
  );
  const { figure } = at.placed;
  if (way && figure !== null && field !== undefined && brief.by.length === 1 && !isRest[row]) {
    const member = at.cell.key[field] ?? null;
    const into = put(side, 'button', `Into ${member ?? BLANK}, by ${way.below}`, { type: 'button' });
    into.onclick = () => {
      side.hidden = true;
      choose({ picked: pickedNext(choice.picked ?? null, { figure, field, member }) });
    };
  }
  const list = put(side, 'ol');
  for (const sentence of sentences) {
    const item = put(list, 'li', sentence.text);
    const sum = sumWords(sentence);
    if (sum !== null) put(item, 'small', sum);
  }
  if (behind) {
    const { rows, columns, lines } = await desk.source.rows(behind, { from: 0, count: ROWS_SHOWN });
    put(side, 'h3', rows > ROWS_SHOWN ? `The first ${ROWS_SHOWN} of its ${counted(rows, 'row')}` : 'Its rows');
    const grid = put(side, 'table');
    const head = put(grid, 'tr');
    for (const { name } of columns) put(head, 'th', name, { scope: 'col' });
    for (const cells of lines) {
      const line = put(grid, 'tr');
      for (const cell of cells) put(line, 'td', cell);
    }
  }
  side.hidden = false;
  close.onclick = () => {
    side.hidden = true;
    mark.focus();
  };
  close.focus();
}

const markOf = (event: Event) => (event.target as Element).closest<SVGElement>('[data-r]');
svg.addEventListener('click', (event) => {
  const mark = markOf(event);
  if (mark) void open(mark);
});
svg.addEventListener('keydown', (event) => {
  const mark = markOf(event);
  if (!mark || (event.key !== 'Enter' && event.key !== ' ')) return;
  event.preventDefault();
  void open(mark);
});
addEventListener('keydown', (event) => {
  if (event.key === 'Escape') side.hidden = true;
});
addEventListener('hashchange', () => {
  choice = fromAddress();
  fillBar();
  void draw();
});
let resizing: ReturnType<typeof setTimeout> | undefined;
addEventListener('resize', () => {
  clearTimeout(resizing);
  resizing = setTimeout(() => void draw(), 150);
});
fillBar();
void draw();
