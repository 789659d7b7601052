import { type Form } from '@bold-ruler/core/brief';
import { answerFigure, formDefinition } from '@bold-ruler/core/figure';
import { highlightFor } from '@bold-ruler/core/highlight';
import { readCsv } from '@bold-ruler/core/reading';
import { checkReport } from '@bold-ruler/core/report';
import { makeTable } from '@bold-ruler/core/table';
import { workspaceFor } from '@bold-ruler/core/workspace';
import { quietest } from './timing';

const MEMBERS = 300;
const GOAL = 4;
/** The forms of comparison: one row, dial or headline a member. */
const COMPARING: Form[] = ['bullet', 'bars', 'pairs', 'dial', 'headline', 'waterfall'];

/** Laying out three hundred members, in every form of comparison and the waterfall: from cells to marks. */
export async function benchLayout(): Promise<void> {
  const rows = Array.from(
    { length: MEMBERS },
    (_, i) => `Account number ${i},${1000 + ((i * 7919) % 5000)},${900 + ((i * 104_729) % 5200)}`,
  );
  const table = makeTable(await readCsv('accounts', ['account,net,goal', ...rows].join('\n')), { id: 'accounts' });
  for (const form of COMPARING) {
    const report = checkReport({
      boldRuler: 1,
      name: 'layout',
      tables: [{ id: 'accounts', source: { file: 'accounts.csv' } }],
      measures: [{ name: 'net', table: 'accounts', expression: 'sum(net)' }],
      benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
      figures: [{ id: 'all', brief: `net by account against goal as ${form}` }],
    });
    const { source, vocabulary } = workspaceFor(report, new Map([['accounts', table]]));
    const cells = await answerFigure({ source, report, vocabulary }, report.figures[0]!);
    const highlight = highlightFor(report, null);
    const took = await quietest(() =>
      // Cells of their own each time, so that nothing is remembered.
      formDefinition(form).draw({
        cells: { ...cells },
        look: {},
        highlight,
        standing: highlight,
        ruler: null,
        scale: 'value',
        further: [],
        sources: [],
      }),
    );
    console.log(
      `time layout-of-${MEMBERS}-members-as-${form} ${took.toFixed(2)} ms  (goal ≤ ${GOAL}: ${took <= GOAL ? 'met' : 'missed'})`,
    );
  }
}
