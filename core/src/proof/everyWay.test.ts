import fc from 'fast-check';
import { expect, test } from 'vitest';
import { periodFrom } from '../brief';
import { carriedBy, unpackTables, unreadBriefs } from '../handover';
import { drawPage, NOTHING_CHOSEN, writePage, type Reader } from '../page';
import { carriedWorkspace } from '../workspace';
import { companies, openCompany } from './company.fixture';
import { tries } from './tries.fixture';

const choice = fc.record({
  shop: fc.constantFrom<readonly (string | null)[]>([], [], ['Alder'], ['Birch', 'Cedar']),
  line: fc.constantFrom<readonly (string | null)[]>([], [], ['keys']),
  period: fc.nat(),
  switched: fc.subarray(['signs/low', 'signs/high']),
  picked: fc.constantFrom(null, null, { field: 'shop', member: 'Alder' }, { field: 'line', member: 'brass' }),
});

test('a page’s file says what the report says', async () => {
  let n = 0;
  let bad = 0;
  await fc.assert(
    fc.asyncProperty(companies, fc.array(choice, { minLength: 2, maxLength: 2 }), async (company, choices) => {
      const desk = await openCompany(company);
      const page = company.report.pages[0]!;
      let carried;
      try {
        carried = (await carriedBy(desk, page))!;
      } catch (e) {
        console.log(
          'CARRY',
          String(e),
          JSON.stringify(company.report.figures.map((f) => f.brief)),
          (e as Error).stack?.split('\n').slice(1, 4).join('|'),
        );
        throw e;
      }
      const there = carriedWorkspace(carried.report, unpackTables(carried.tables), carried.names);
      for (const { shop, line, period, switched, picked } of [null, ...choices].map(
        (one) => one ?? { shop: [], line: [], period: 0, switched: [], picked: null },
      )) {
        const offered = [null, ...carried.periods];
        const text = offered[period % offered.length]?.text ?? null;
        const reader: Reader = {
          ...NOTHING_CHOSEN,
          only: { shop, line },
          period: text === null ? null : periodFrom(text),
          switched,
          picked: picked && { figure: 'f0', ...picked },
        };
        const one = writePage(await drawPage(desk, page, { reader }));
        const other = writePage(
          await drawPage(there, carried.report.pages[0]!, { reader, unread: unreadBriefs(carried) }),
        );
        if (one !== other) {
          const texts = (s: string) => [...s.matchAll(/<text[^>]*>([^<]*)</g)].map((m) => m[1]!);
          const a = texts(one),
            b = texts(other);
          console.log(
            'DIFF',
            JSON.stringify(company.report.calendar),
            JSON.stringify(company.report.tables.slice(0, 2)),
            JSON.stringify(company.report.figures),
            JSON.stringify(reader),
            '\n',
            a.filter((t) => !b.includes(t)).slice(0, 8),
            b.filter((t) => !a.includes(t)).slice(0, 8),
          );
        }
        n++;
        if (one !== other) bad++;
      }
    }),
    { numRuns: tries(300) },
  );
  console.log(n, bad);
});
