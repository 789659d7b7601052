import { expect, test } from 'vitest';
import { isoDay } from '../calendar';
import { numbersFor, numbersText, rowWords, tableCells, type Drawn } from '../figure';
import { numbersOf } from '../figure';
import { isFitted, waterfallFor, type Cells, type Numbers } from '../query';
import { daysIn, numbersIn, tells } from './readBack.fixture';
import { check, inWorlds, toldBy, type Known } from './world.fixture';

// Words are numbers, too: every text of a figure is read back, and each number in it, and each claim, is held against the
// numbers it tells. Any calendar, form, view, benchmark and selection; no text is let off.

const standingOf = (row: { dueStanding?: unknown; standing?: unknown; due?: unknown }) =>
  row.due !== undefined && row.due !== null ? row.dueStanding : row.standing;

const STANDING_OF: Readonly<Record<string, string>> = {
  'ahead of': 'ahead',
  'better than': 'ahead',
  'level with': 'level',
  behind: 'behind',
  'worse than': 'behind',
};

/** The title against the whole of what is shown, how many stand where, and who leads. */
function checkTitle(drawn: Drawn, cells: Cells, numbers: Numbers): void {
  const { title } = drawn.scene;
  const whole = numbers.shown ?? numbers.total;
  const rows = numbers.rows.filter(({ rest }) => !rest);
  const counts = ['ahead', 'level', 'behind'].map((one) => rows.filter((row) => standingOf(row) === one).length);
  const places = numbers.rows.flatMap(({ rank }) => rank ?? []);
  const won = cells.view.kind === 'rank' ? Array.from({ length: Math.max(0, ...places) + 1 }, (_, i) => i) : [];
  const held = counts.reduce((sum, n) => sum + n, 0);
  // Of one without a benchmark of its own some may be due by now all the same.
  const lone = rows.filter((row) => standingOf(row) === null && row.benchmark === null).length;
  const blanks = rows.length - lone - held;
  // How many there are is said where not all are shown, and then what is told is theirs.
  const some = / the (?:(\d+) )?(?:highest|lowest|largest|widest gaps?|furthest ahead|furthest behind) of (\d+)/.exec(
    title,
  );
  const members = new Set(rows.map(({ key }) => JSON.stringify(key))).size;
  if (some) {
    expect(Number(some[1] ?? 1)).toBe(members);
    expect(Number(some[2])).toBeGreaterThan(members);
  }
  const nobody = /: none of (\d+) can be ranked/.exec(title);
  const tellsNumber = !nobody && numbersIn(title.replace(some?.[0] ?? '', '')).length > 0;
  if (numbers.shown && tellsNumber && cells.view.kind !== 'rank') expect(title).toMatch(/ the .* of \d+/);
  if (!numbers.shown) expect(some).toBeNull();
  if (nobody) expect([rows.length, Number(nobody[1])]).toEqual([0, cells.everyone]);
  const all = [...(some ? [Number(some[2]), members] : []), ...(nobody ? [Number(nobody[1])] : [])];
  check('the title', title, [...toldBy(whole), ...counts, rows.length, held, lone, blanks, ...won, ...all]);
  const behind = /(\d+|none) of (\d+) behind/.exec(title);
  const without = /[,;] (\d+) without it/.exec(title);
  const blank = /[,;] (\d+) without actuals/.exec(title);
  if (behind) {
    expect(Number(behind[1] === 'none' ? 0 : behind[1])).toBe(counts[2]);
    expect(Number(behind[2])).toBe(held);
  }
  if (without) expect(Number(without[1])).toBe(lone);
  if (blank) expect(Number(blank[1])).toBe(blanks);
  if (behind || without || blank)
    expect([behind?.[2], without?.[1], blank?.[1]].reduce((sum, n) => sum + Number(n ?? 0), 0)).toBe(rows.length);
  const claim =
    / (ahead of|level with|behind|better than|worse than) (?:the )?(?:goal|last year|average|quota|stretch|outlook)/.exec(
      title,
    );
  if (claim && cells.view.kind !== 'rank') expect(standingOf(whole)).toBe(STANDING_OF[claim[1]!]);
  if (title.endsWith(' together') && !cells.grain && !cells.brief.grain && cells.view.kind === 'plain') {
    const sum = numbers.rows.reduce((all, { actual }) => all + (actual ?? 0), 0);
    check('the sum of the rows', title, [sum, whole.actual, ...all]);
    expect(Math.abs(sum - whole.actual!)).toBeLessThan(1e-6 * Math.max(1, Math.abs(sum)));
  }
  for (const day of daysIn(title))
    expect([
      numbers.period.to,
      numbers.asOf,
      numbers.period.from,
      cells.shown.step === null ? null : isoDay(cells.shown.step),
    ]).toContain(day);
}

/** The words of each row's place against that row, and what they claim. */
function checkRows(drawn: Drawn, cells: Cells, numbers: Numbers): void {
  const at = new Map(numbers.rows.map((row, i) => [JSON.stringify([row.key, row.step]), { row, i }]));
  const steps = cells.brief.form === 'waterfall' ? waterfallFor(cells).steps : [];
  for (const mark of drawn.scene.marks) {
    if (mark.role !== 'cell' || !mark.words) continue;
    const found = at.get(JSON.stringify([mark.key, mark.step]));
    const step = steps.filter(
      ({ row, kind, name }) => (found && row === found.i) || (kind !== 'step' && mark.words!.startsWith(`${name}`)),
    );
    const known = [
      ...(found ? toldBy(found.row) : []),
      ...step.flatMap(({ value, start, end }) => [value, start, end]),
    ];
    check('the words of a row', mark.words, known);
    const claim = /, (ahead of|level with|behind|better than|worse than) /.exec(mark.words);
    if (claim && found) expect(standingOf(found.row)).toBe(STANDING_OF[claim[1]!]);
    for (const day of daysIn(mark.words)) expect([numbers.asOf, found?.row.step ?? day]).toContain(day);
  }
}

/** The texts that stand on the paper: each tells the value its mark bears, and that value is one of the figure's numbers. */
function checkMarks(drawn: Drawn, numbers: Numbers): void {
  const wholes = [numbers.total, ...(numbers.shown ? [numbers.shown] : [])];
  const landings = (numbers.landings ?? []).flatMap((one) =>
    Object.values(one).filter((v): v is number => typeof v === 'number'),
  );
  const trends = (numbers.trends ?? []).flatMap((one) =>
    Object.values(one).filter((v): v is number => typeof v === 'number'),
  );
  const steps = (numbers.waterfall ?? []).flatMap(({ value, start, end }) => [value, start, end] as number[]);
  const further = drawn.further.flatMap((one) => (one ? numbersOf(one).rows.flatMap(toldBy) : []));
  const everything: Known = [
    ...numbers.rows.flatMap(toldBy),
    ...wholes.flatMap(toldBy),
    ...landings,
    ...trends,
    ...steps,
    ...further,
  ];
  // Beside a line of ranks stands how many places it won from its first to its last.
  const lines = new Map<string, number[]>();
  for (const { key, rank } of numbers.rows) {
    const name = JSON.stringify(key);
    if (typeof rank === 'number') lines.set(name, [...(lines.get(name) ?? []), rank]);
  }
  const ranks = [...lines.values()].map((line) => line[0]! - line.at(-1)!);
  for (const mark of drawn.scene.marks) {
    if (mark.shape !== 'text') continue;
    const { text, value, role } = mark;
    if (role === 'ticklabel') {
      if (value !== null) check('a tick', text, [value]);
    } else if (role === 'value' || role === 'gap') {
      const shown = numbersIn(text);
      // A label may say more than the value it bears, but not less.
      if (value !== null && shown.length > 0 && !shown.some((one) => tells(one, [value])))
        throw new Error(`a label: “${text}” does not say ${value}`);
      check('a label’s value', text, [...everything, ...ranks]);
    } else if (role === 'total') check('the foot', text, wholes.flatMap(toldBy));
  }
}

/** What the steps come to, each rounded to the digits the legend has. */
function sumAsShown(legend: string, numbers: Numbers): number {
  const { unit } = numbersIn(legend).at(-1)!;
  const steps = numbers.waterfall ?? [];
  return steps
    .filter(
      ({ kind, value }, i) => value !== null && (kind === 'step' || (i === 0 && kind === 'total' && steps.length > 1)),
    )
    .reduce((sum, { value }) => sum + Math.round((value as number) / unit) * unit, 0);
}

/** What a legend says of landings, lines and sums. */
function checkLegend(drawn: Drawn, numbers: Numbers): void {
  const landings = (numbers.landings ?? []).flatMap((one) => [
    Math.abs((one.neededPerWorkday ?? one.neededPerDay) as number),
    (one.workdaysLeft ?? one.daysLeft) as number,
  ]);
  const trends = (numbers.trends ?? []).flatMap((one) => [one.slope, one.rSquared, one.steps] as number[]);
  const steps = numbers.waterfall ?? [];
  const [first, last] = [steps[0], steps.at(-1)];
  const ends =
    first && last
      ? [
          first.value as number,
          last.value as number,
          (last.value as number) - (first.kind === 'total' && steps.length > 1 ? (first.value as number) : 0),
          steps.filter(({ kind, value }) => kind === 'step' && value !== null).length,
        ]
      : [];
  const parts =
    steps.length > 0
      ? [steps.reduce((sum, { kind, value }) => sum + (kind === 'step' ? Math.abs((value as number) ?? 0) : 0), 0)]
      : [];
  for (const mark of drawn.scene.marks) {
    if (mark.shape !== 'text' || mark.role !== 'legend') continue;
    const interval = mark.text.includes('holds 95 of 100') ? [95, 100] : [];
    const bands =
      drawn.request.look.bands === undefined
        ? [
            0.75,
            0.9,
            1.1,
            1.25,
            0.25,
            0.1,
            ...numbers.rows.flatMap(toldBy).flatMap((v) => (v ? [v * 0.75, v * 0.9, v * 1.1, v * 1.25] : [])),
          ]
        : [];
    check('the legend', mark.text, [
      ...landings,
      ...trends,
      ...ends,
      ...parts,
      ...bands,
      ...interval,
      ...(mark.text.includes('the rounded numbers add up to') ? [sumAsShown(mark.text, numbers)] : []),
      drawn.request.look.smooth,
    ]);
  }
}

/** The table of the numbers beneath a figure: each column against what it is called. */
function checkTable(cells: Cells, numbers: Numbers): void {
  const { headings, lines, whole } = numbersText(cells);
  lines.forEach((line, i) => {
    const row = numbers.rows[i]!;
    line.forEach((text, c) => {
      if (c === 0) return;
      const heading = headings[c]!;
      const isDue = row.due !== undefined && row.due !== null;
      const other = (row.values ?? {})[heading];
      const known: Readonly<Record<string, Known>> = {
        'due by now': [row.due],
        gap: [isDue ? row.dueGap : row.gap],
        'gap %': [isDue ? row.dueGapPercent : row.gapPercent],
        share: [row.share],
        rank: [row.rank],
        rows: [row.rows],
      };
      const expected =
        c === 1 ? [row.actual] : c === 2 && cells.benchmark ? [row.benchmark] : (known[heading] ?? [other]);
      check(`the column ${heading}`, text, expected);
      // A dash stands for blank and for nothing else.
      if (text === '–') expect(expected.every((one) => one === null || one === undefined)).toBe(true);
    });
  });
  whole.forEach(
    (text, c) => c > 0 && check(`the foot of ${headings[c]}`, text, [...toldBy(numbers.total), numbers.total.rows]),
  );
}

/** Headings of a table's columns on the paper are no two alike, and the notes' days are days of the figure. */
function checkHeadings(drawn: Drawn): void {
  const headings = drawn.scene.marks.flatMap((mark) =>
    mark.column !== undefined && mark.shape === 'text' ? [mark.text] : [],
  );
  expect(new Set(headings).size).toBe(headings.length);
}

/** Holds every text of a figure against its numbers. */
function readBack(drawn: Drawn, form: string): void {
  const plain =
    form === 'table' || form === 'league'
      ? tableCells({ cells: drawn.rows, further: drawn.further }, form === 'league').rows
      : drawn.rows;
  const numbers = numbersOf(plain);
  checkTitle(drawn, plain, numbers);
  checkRows(drawn, plain, numbers);
  checkMarks(drawn, numbers);
  checkLegend(drawn, numbers);
  checkHeadings(drawn);
  const answer = numbersFor(drawn);
  checkTable(answer, numbersOf(answer));
  // What is heard is what is seen.
  if (plain.count > 0 && plain.count <= 40 && form !== 'waterfall')
    for (let row = 0; row < plain.count; row++) expect(drawn.scene.description).toContain(rowWords(plain, row));
  expect(drawn.scene.description).toContain(`${plain.count} ${plain.count === 1 ? 'row' : 'rows'}.`);
  for (const { text } of plain.checks)
    expect(text).not.toMatch(/NaN|undefined|\[object|\b1 (rows|days|members|steps)\b/);
  // The caption says up to when, and lines go through what is whole.
  const caption = drawn.scene.marks
    .flatMap((mark) => (mark.shape === 'text' && mark.role === 'caption' ? [mark.text] : []))
    .join(' ');
  expect(daysIn(/as of [^.]*/.exec(caption)?.[0] ?? '')).toEqual(caption.includes('as of') ? [isoDay(plain.asOf)] : []);
  for (const trend of numbers.trends ?? []) {
    const whole = Array.from({ length: plain.count }, (_, row) => row).filter((row) => isFitted(plain, row));
    expect(trend.steps as number).toBeLessThanOrEqual(whole.length);
  }
}

test('every number, word and claim of a figure is that of its rows', () =>
  inWorlds(300, 80, (drawn, _, q) => readBack(drawn, q.form)));
