import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { bandsOf, rowBands } from '../figure/bullet/bands';
import { isAdditive, readExpression } from '../measure';
import { numbersOf } from '../figure';
import { answerBrief, roundedShares, type Cells, type Choices } from '../query';
import { readCsv } from '../reading';
import { checkReport, type Aim, type Look } from '../report';
import { place } from '../ruler';
import { makeTable } from '../table';
import { workspaceFor } from '.';

// docs/calculations.md, worked out: its tables and report are read, and each of its examples is computed.

interface Block {
  readonly kind: string;
  readonly name: string;
  readonly lines: readonly string[];
  /** The heading it stands under, and its place. */
  readonly under: string;
}

const page = readFileSync(new URL('../../../docs/calculations.md', import.meta.url), 'utf8');
const blocks: Block[] = [];
for (const section of page.split(/^## /m).slice(1)) {
  for (const [, kind, name, text] of section.matchAll(/^```(\w+) ?(\w*)\n([^]*?)\n```$/gm))
    blocks.push({ kind: kind!, name: name!, lines: text!.split('\n'), under: section.split('\n')[0]! });
}
const of = (kind: string) => blocks.filter((block) => block.kind === kind);

const GRAINS = { sales: 'day', goals: 'month', takings: 'quarter', abroad: 'day', rates: 'month' } as const;
const tables = new Map(
  await Promise.all(
    of('csv').map(async ({ name, lines }) => {
      const raw = await readCsv(name, lines.join('\n'));
      return [name, makeTable(raw, { id: name, grain: GRAINS[name as keyof typeof GRAINS] })] as const;
    }),
  ),
);
const { rates, ...given } = JSON.parse(of('json')[0]!.lines.join('\n')) as {
  measures: object[];
  benchmarks: object[];
  /** The columns of its table of rates. */
  rates: object;
};

/** The report of the page, and further measures, as they come in its examples of expressions. */
async function answer(
  brief: string,
  { calendar = {}, ...choices }: Choices & { readonly calendar?: object } = {},
  measures: readonly object[] = [],
): Promise<Cells> {
  const report = checkReport({
    boldRuler: 1,
    name: 'docs',
    calendar,
    tables: [...tables.keys()].map((id) => ({
      id,
      source: { file: `${id}.csv` },
      ...(id === 'rates' ? { rates, grain: 'month' } : {}),
    })),
    ...given,
    measures: [...given.measures, ...measures],
  });
  const { source, vocabulary } = workspaceFor(report, tables);
  return answerBrief({ source, report, vocabulary }, readBrief(brief, vocabulary), choices);
}

const equations = (kind: string) =>
  of(kind).flatMap(({ lines }) => lines.map((line) => line.split(/ = (?=[^=]*$)/) as [string, string]));

function agrees(got: unknown, wanted: string): void {
  if (wanted === '–') expect(got ?? null).toBeNull();
  else if (typeof got === 'number')
    expect(got).toBeCloseTo(Number(wanted), 9 - Math.ceil(Math.log10(Math.abs(got) + 1)));
  else if (typeof got === 'boolean') expect(got ? 'yes' : 'no').toBe(wanted);
  else expect(got).toBe(wanted);
}

describe('every example of docs/calculations.md', () => {
  const examples = of('example');
  test.each(examples.map((block) => [block.under, block.lines[0]!, block] as const))(
    '%s: %s',
    async (_, first, block) => {
      const [, brief, look] = /^(.*?)(?: (\{.*\}))?$/.exec(first)!;
      const asked = answer(brief!, look === undefined ? {} : (JSON.parse(look) as Choices));
      if (block.name === 'refused') return expect(asked).rejects.toThrow(block.lines[1]!);
      const numbers = numbersOf(await asked);
      const [header, ...rows] = block.lines.slice(1).map((line) => line.split('|').map((cell) => cell.trim()));
      const key = (block.name || 'rows') as keyof typeof numbers;
      const found = [numbers[key]].flat() as Record<string, unknown>[];
      // A row is found by what stands in its first column, or all rows are compared in order.
      const byName = block.name === '' && header![0] !== 'actual';
      const seen = byName ? null : found;
      if (seen && block.name !== 'checks') expect(seen).toHaveLength(rows.length);
      rows.forEach((row, i) => {
        const flat = (one: Record<string, unknown>) =>
          ({ ...one, ...(one.key as object | undefined) }) as Record<string, unknown>;
        const one =
          byName || block.name === 'checks' ? found.find((each) => flat(each)[header![0]!] === row[0]) : found[i];
        expect(one, `a row “${row[0]}”`).toBeDefined();
        header!.forEach((column, c) => agrees(flat(one!)[column], row[c]!));
      });
    },
  );

  test.each(equations('expressions'))('%s', async (expression, wanted) => {
    const cells = await answer('worked', {}, [{ name: 'worked', table: 'sales', expression }]);
    agrees(numbersOf(cells).total.actual, wanted);
  });
  test.each(equations('additive'))('additive: %s', (expression, wanted) =>
    expect(isAdditive(readExpression(expression)) ? 'yes' : 'no').toBe(wanted),
  );
  test.each(equations('percentages'))('percentages of %s', (values, wanted) => {
    const numbers = values.split(' ').map(Number);
    const whole = numbers.reduce((a, b) => a + b);
    expect(roundedShares(numbers.map((value) => value / whole)).join(' ')).toBe(wanted);
  });
  test.each(equations('rulers'))('ruler %s', (text, wanted) => {
    const { value, ...ruler } = JSON.parse(text) as Parameters<typeof place>[0] & { value: number };
    agrees(place(ruler, value), wanted);
  });
  test.each(equations('bands'))('bands %s', async (text, wanted) => {
    const { aim, benchmark, ruler, ...bands } = JSON.parse(text) as NonNullable<Look['bands']> & {
      aim: Aim;
      benchmark: number;
      ruler: [number, number];
    };
    const cells = await answer('net by shop during year to date against goal');
    const placed = bandsOf({ ...cells, measure: { ...cells.measure, aim } }, { bands })!;
    expect(
      rowBands(placed, benchmark, aim, ruler)
        .map(({ from, to }) => `${from}–${to}`)
        .join(' '),
    ).toBe(wanted);
  });

  test('there is one under each heading', () => {
    const headings = page
      .split(/^## /m)
      .slice(1)
      .map((section) => section.split('\n')[0]!);
    expect(headings.filter((heading) => !blocks.some((block) => block.under === heading))).toEqual([]);
    expect(examples.length).toBeGreaterThan(50);
  });
});
