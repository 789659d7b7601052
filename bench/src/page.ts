import { formOf, readBrief, writeBrief, type Brief } from '@bold-ruler/core/brief';
import { drawFigure, formDefinition } from '@bold-ruler/core/figure';
import { highlightFor } from '@bold-ruler/core/highlight';
import { answerBrief } from '@bold-ruler/core/query';
import { readCsv } from '@bold-ruler/core/reading';

import { PAGE } from './figures';
import { printTime, quietest } from './timing';
import { writeSvg } from '@bold-ruler/core/scene';
import { makeTable, type Table } from '@bold-ruler/core/table';
import { workspaceFor } from '@bold-ruler/core/workspace';
import { PLAN_HEADER, planRows } from '@bold-ruler/demo/plan';
import { pellwetherReport } from '@bold-ruler/demo/report';

const CHANNELS = ['Schools', 'Web', 'Retail', 'Export', 'Fairs'];

/** A page after a change of its filter: everything its figures say, from rows or from roll-ups. */
export async function benchPage(orders: Table): Promise<void> {
  const text = [PLAN_HEADER, ...planRows(orders.rows)].map((row) => row.join(',')).join('\n');
  const plan = makeTable(await readCsv('plan', text), { id: 'plan', date: 'month', grain: 'month' });
  const report = pellwetherReport();
  const opened = () =>
    workspaceFor(
      report,
      new Map([
        ['orders', orders],
        ['plan', plan],
      ]),
    );
  const desk = opened();
  const briefs = PAGE.map((brief) => readBrief(brief, desk.vocabulary));
  const channels = desk.vocabulary.members('channel') ?? CHANNELS;
  const answer = async (member: string | null, { source, vocabulary } = desk) => {
    const only: Brief['only'] = member === null ? [] : [{ kind: 'is', field: 'channel', members: [member] }];
    const start = performance.now();
    for (const brief of briefs) await answerBrief({ source, report, vocabulary }, { ...brief, only });
    return performance.now() - start;
  };
  // Warmed up: other desks over the same tables know nothing that this one would.
  for (let i = 0; i < 3; i++) {
    const other = opened();
    for (const member of [null, ...channels]) await answer(member, other);
  }
  const whole = await answer(null);
  const changes: number[] = [];
  for (const channel of channels) changes.push(await answer(channel));
  const figures = briefs.map((brief, i) => ({ id: `p${i}`, brief: writeBrief(brief, desk.vocabulary), look: {} }));
  const page = { ...report, figures };
  const answered = await Promise.all(
    figures.map((figure) => drawFigure({ source: desk.source, report: page, vocabulary: desk.vocabulary }, figure)),
  );
  // The numbers are there; each time the cells are new, so that nothing of an earlier drawing is used again.
  const drawn = await quietest(() => {
    for (const [i, { rows, further }] of answered.entries()) {
      const highlight = highlightFor(page, briefs[i]!.lit);
      const cells = { ...rows };
      const form = formDefinition(formOf(briefs[i]!));
      writeSvg(
        form.draw({
          cells,
          look: {},
          highlight,
          standing: highlightFor(page, null),
          ruler: null,
          scale: 'value',
          further,
          sources: [],
        }),
      );
    }
  });
  printTime('page-of-12-figures-scenes-and-svg', drawn, 16);
  const [firstGoal, goal] = orders.rows < 2_000_000 ? [60, 15] : [400, 40];
  const last = changes.slice(2).sort((a, b) => a - b);
  const typical = last[last.length >> 1]!;
  console.log(`time page-of-12-figures-first-opened ${whole.toFixed(1)} ms`);
  printTime('page-of-12-figures-first-filter', changes[0]!, firstGoal);
  printTime('page-of-12-figures-another-member', typical, goal);
}
