import { beforeAll, describe, expect, test } from 'vitest';
import { readBrief } from '@bold-ruler/core/brief';
import { drawFigure, type Drawn } from '@bold-ruler/core/figure';
import type { Finding } from '@bold-ruler/core/level';
import { readCsv } from '@bold-ruler/core/reading';
import { reckon } from '@bold-ruler/core/reckoning';
import { checkReport } from '@bold-ruler/core/report';
import { makeTable, profileTable } from '@bold-ruler/core/table';
import { workspaceFor, type OpenReport } from '@bold-ruler/core/workspace';
import { fieldsText } from './fieldsText';
import { findingsText } from './findingsText';
import { reckonText, rowAt } from './reckonText';
import { printable } from './say';

// What the command line says to people, line by line.

describe('what a file holds', () => {
  const told = async (text: string, file = 'rows.csv') =>
    fieldsText(profileTable(makeTable(await readCsv('t', text), { id: 't' }), file));

  test('its rows and time, and a line a column', async () => {
    const lines = (await told('day,shop,net\n2025-01-01,Alder,5\n2025-01-02,Birch,7.5\n')).split('\n');
    expect(lines[0]).toBe('rows.csv: 2 rows, by “day” from 2025-01-01 to 2025-01-02, one row a day or part of it');
    expect(
      lines.slice(1, 4).map((line) =>
        line
          .trim()
          .split(/\s{2,}/)
          .slice(0, 2),
      ),
    ).toEqual([
      ['day', 'date'],
      ['shop', 'text'],
      ['net', 'number'],
    ]);
    expect(lines[3]).toContain('sum 12.5');
    // Columns stand below one another.
    expect(new Set(lines.slice(1, 4).map((line) => line.indexOf('2 different'))).size).toBe(1);
  });

  test('one row, and no date', async () => {
    expect((await told('shop,net\nAlder,5\n')).split('\n')[0]).toBe('rows.csv: 1 row, without a date');
  });

  test('what was left out, with its line and why', async () => {
    const text = await told(
      `day,net\n${Array.from({ length: 40 }, (_, i) => `2025-01-${String(1 + (i % 28)).padStart(2, '0')},${i}`).join('\n')}\n2025-02-01,twelve\n`,
    );
    expect(text).toContain('Left out:\n  line 42, net: “twelve” is not a number');
  });

  test('many that were left out are counted', async () => {
    const bad = Array.from({ length: 30 }, (_, i) => `2025-01-01,x${i}`);
    const good = Array.from({ length: 300 }, (_, i) => `2025-01-02,${i}`);
    const text = await told(['day,net', ...good, ...bad].join('\n'));
    expect(text).toContain('  … and 10 more');
  });

  test('dates that can be read in two ways, strays, and empty lines', async () => {
    const text = await told('day,net\n03/04/2025,1\n\n05/06/2025,2\n07/08/2025,3\n');
    expect(text).toContain('“day” can be read in 2 ways');
    expect(text).toContain('Empty lines: 1');
    expect(await told('shop,net\n"Rack 19 inch,1\nAlder,2\nBirch,3\n')).toContain(
      'A quote encloses no cell and is read as a letter in line 2',
    );
  });

  test('days far from all others', async () => {
    const days = Array.from(
      { length: 60 },
      (_, i) => `${new Date(Date.UTC(2025, 0, 1 + i)).toISOString().slice(0, 10)},1`,
    );
    const one = await told(['day,net', ...days, '9999-12-31,1'].join('\n'));
    expect(one).toContain('9999-12-31 in line 62; it does not set the as-of date.');
    const two = await told(['day,net', ...days, '9999-12-30,1', '9999-12-31,1'].join('\n'));
    expect(two).toContain('in lines 62, 63; they do not set the as-of date.');
  });
});

describe('findings', () => {
  const finding: Finding = {
    code: 'rule-gap',
    severity: 'warning',
    about: { kind: 'highlight', id: 'loud' },
    text: 'no rule paints 5',
    why: 'it is painted as none',
    fact: 'no rule paints 5',
    accepted: null,
    acceptedBy: null,
    repair: null,
    amount: null,
    lines: null,
    table: null,
    view: null,
  };
  test('are told one a line, with why they matter or why they stand', () => {
    expect(findingsText([finding])).toBe(
      'warning  highlight loud: no rule paints 5  [rule-gap]\n    it is painted as none\n',
    );
    expect(findingsText([{ ...finding, accepted: 'as agreed' }])).toContain('\n    accepted: as agreed\n');
    const inTwo = [finding, { ...finding, about: { kind: 'highlight' as const, id: 'calm' } }];
    expect(findingsText(inTwo)).toBe(
      'warning  highlights loud and calm: no rule paints 5  [rule-gap]\n    it is painted as none\n',
    );
    expect(findingsText([])).toBe('Nothing to find fault with.\n');
  });
});

describe('a reckoning', () => {
  let desk: OpenReport;
  let drawn: Drawn;
  const figure = async (brief: string) => {
    readBrief(brief, desk.vocabulary);
    return drawFigure(desk, { id: 'f', brief, look: {} });
  };
  beforeAll(async () => {
    const table = makeTable(
      await readCsv('t', 'day,shop,net\n2025-01-01,Alder,5\n2025-02-01,Alder,7\n2025-01-02,Birch,3\n2025-02-03,,1\n'),
      { id: 't', date: 'day' },
    );
    const report = checkReport({
      boldRuler: 1,
      name: 't',
      tables: [{ id: 't', source: { file: 't.csv' }, date: 'day' }],
      measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
    });
    desk = workspaceFor(report, new Map([['t', table]]));
    drawn = await figure('net by shop each month as trend');
  });

  test('is of the row that is named by its members and its step', async () => {
    const row = rowAt(drawn, ['shop=Alder'], '2025-02');
    const text = reckonText(await reckon(desk, drawn, row));
    expect(text.split('\n')[0]).toContain('Alder');
    expect(text).toContain('1. ');
    expect(text).toContain('sum(net)');
    expect(rowAt(drawn, ['shop='], '2025-02')).toBeGreaterThan(row);
  });

  test('of no such row offers what there is', () => {
    expect(() => rowAt(drawn, ['shop=Aldr'], undefined)).toThrow('did you mean “Alder”');
    expect(() => rowAt(drawn, [], '2025-03')).toThrow('the figure has no row at 2025-03');
    expect(() => rowAt(drawn, ['shop'], undefined)).toThrow('“shop” names no field of the figure');
    expect(() => rowAt(drawn, ['town=x'], undefined)).toThrow('write --at "shop=…"');
  });

  test('of a figure without fields has none to name', async () => {
    const whole = await figure('net as headline');
    expect(() => rowAt(whole, ['shop=Alder'], undefined)).toThrow('the figure has no fields; leave out --at');
    expect(rowAt(whole, [], undefined)).toBe(0);
  });
});

test('what a terminal takes for orders is not shown', () => {
  expect(printable('a\u001b[2Jb\u202ec\u0007\n\td')).toBe('a\ufffd[2Jb\ufffdc\ufffd\n\td');
});
