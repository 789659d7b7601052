import { checkReport, type Report } from '@bold-ruler/core/report';

/** A sentence of the demo’s page: what the whole hides. */
const HIDDEN =
  'Keys lacks {gap of Keys} ({gap % of Keys}) of its plan; Percussion makes up for it with {gap of Percussion} more.';

/** What is known of each product line is looked up. */
const LINES = { columns: ['product line'], to: 'lines', on: ['line'] };

/** The report that the application opens as its demo and the docs use as their example. */
export function pellwetherReport(): Report {
  const euros = { style: 'currency', currency: 'EUR', scale: 'auto' };
  return checkReport({
    boldRuler: 1,
    name: 'Pellwether, sales to March 2026',
    calendar: { fiscalYearStart: 9, fiscalYearNamed: 'end', weekStart: 'monday', asOf: 'auto' },
    tables: [
      {
        id: 'orders',
        source: { file: 'orders.csv' },
        date: 'ordered',
        grain: 'day',
        joins: [LINES],
      },
      { id: 'plan', source: { file: 'plan.csv' }, date: 'month', grain: 'month', joins: [LINES] },
      {
        id: 'stock',
        source: { file: 'stock.csv' },
        date: 'month',
        grain: 'month',
        joins: [LINES],
        same: { 'product line': { Accessory: 'Accessories', 'Wood wind': 'Woodwind' } },
      },
      { id: 'lines', source: { file: 'lines.csv' } },
    ],
    measures: [
      { name: 'net sales', table: 'orders', expression: 'sum(net)', aim: 'raise', tolerance: 0.01, format: euros },
      {
        name: 'margin',
        table: 'orders',
        expression: 'sum(net) - sum(cost)',
        aim: 'raise',
        tolerance: 0.01,
        format: euros,
      },
      {
        name: 'margin rate',
        table: 'orders',
        expression: '(sum(net) - sum(cost)) / sum(net)',
        aim: 'raise',
        tolerance: 0.01,
        format: { style: 'percent', decimals: 1 },
      },
      {
        name: 'order lines',
        table: 'orders',
        expression: 'count(*)',
        aim: 'raise',
        tolerance: 0.01,
        format: { style: 'number', scale: 'auto' },
      },
      {
        name: 'pieces',
        table: 'orders',
        expression: 'sum(quantity)',
        aim: 'raise',
        tolerance: 0.01,
        format: { style: 'number', scale: 'auto' },
      },
      {
        name: 'returned',
        table: 'orders',
        expression: '-sum(net) filter (where quantity < 0)',
        aim: 'cut',
        tolerance: 0.05,
        format: euros,
      },
      {
        name: 'delivery days',
        table: 'orders',
        expression: 'avg("days to deliver")',
        aim: 'cut',
        tolerance: 0.02,
        format: { style: 'number', decimals: 1, unit: 'days' },
      },
      {
        name: 'delivery score',
        table: 'orders',
        expression: 'avg("delivery score")',
        aim: 'raise',
        tolerance: 0.01,
        format: { style: 'number', decimals: 1 },
      },
      {
        name: 'weeks of stock',
        table: 'stock',
        expression: 'avg("weeks of stock")',
        aim: 'hold',
        tolerance: 0.15,
        format: { style: 'number', decimals: 1, unit: 'weeks' },
      },
    ],
    benchmarks: [
      { name: 'plan', kind: 'table', table: 'plan', expression: 'sum(target)', spread: 'even', split: 'none' },
      { name: 'stretch', kind: 'scaled', of: 'plan', by: 0.1 },
      { name: 'outlook', kind: 'forecast', method: 'smoothing', season: 'additive' },
      { name: 'six weeks', kind: 'fixed', value: 6, per: ['member', 'month'] },
    ],
    figures: [
      {
        id: 'territories',
        brief: 'net sales by territory during fiscal 2026 to date against plan as bullet, sorted by value down',
        look: {},
      },
      {
        id: 'product-lines',
        brief:
          'net sales by product line during fiscal 2026 to date against plan as bullet, sorted by gap percent down',
        look: {},
      },
      {
        id: 'year',
        brief: 'net sales by product line during fiscal 2026 against plan as bullet',
        look: { height: 520, orientation: 'vertical' },
      },
      {
        id: 'territories-last-year',
        brief:
          'net sales by territory during fiscal 2026 to date against last year as bullet, sorted by gap percent down',
        look: {},
      },
      {
        id: 'months',
        brief: 'net sales each month during fiscal 2026 against plan as bullet',
        look: { height: 480, orientation: 'vertical' },
      },
      {
        id: 'delivery',
        brief: 'delivery days by channel during fiscal 2026 to date against last year as bullet',
        look: {},
      },
      {
        id: 'stock',
        brief: 'weeks of stock by product line during latest month against six weeks as bullet',
        look: {},
      },
      {
        id: 'reps',
        brief: 'margin by rep during fiscal 2026 to date against last year as bullet, keep 12 furthest behind',
        look: {},
      },
      {
        id: 'returns',
        brief: 'net sales by account during previous quarter against last year as bullet, keep 8 widest gaps',
        look: {},
      },
      {
        id: 'accounts',
        brief:
          'net sales by account during latest quarter against last year as bars, keep 10 widest gaps, sorted by gap down',
        look: {},
      },
      {
        id: 'lines-and-last-year',
        brief: 'net sales by product line during fiscal 2026 to date against last year as pairs, sorted by value down',
        look: {},
      },
      {
        id: 'whole-year',
        brief: 'net sales by territory during fiscal 2026 against plan as dial, sorted by gap percent down',
        look: {},
      },
      {
        id: 'landing',
        brief: 'net sales by territory during fiscal 2026 against plan as bullet, sorted by gap percent down',
        look: { landing: 'as so far' },
      },
      {
        id: 'scorecard',
        brief:
          'net sales, margin, margin rate, order lines, returned, delivery days, delivery score during fiscal 2026 to date against last year as bullet',
        look: { title: 'Against last year, {ahead} of {members} measures are ahead' },
      },
      {
        id: 'lines-by-channel',
        brief: 'net sales by product line, channel during fiscal 2026 to date against last year as bullet',
        look: { panels: 'channel', width: 960 },
      },
      {
        id: 'what-changed',
        brief:
          'net sales by product line during fiscal 2026 to date against last year as waterfall, sorted by gap down',
        look: { orientation: 'vertical', zoom: true },
      },
      {
        id: 'course',
        brief: 'cumulative net sales each day during fiscal 2026 against last year as pace',
        look: {},
      },
      {
        id: 'course-by-line',
        brief: 'cumulative net sales by product line each week during fiscal 2026 against plan as pace',
        look: { panels: 'product line', width: 960 },
      },
      {
        id: 'ranks',
        brief: 'rank of net sales by territory each month during last 24 months as bump',
        look: { emphasis: ['Larkmoor'] },
      },
      {
        id: 'by-month',
        brief: 'net sales each month during fiscal 2026 against plan as trend',
        look: { draw: 'bars' },
      },
      {
        id: 'outlook',
        brief: 'net sales each month during fiscal 2026 against outlook as trend',
        look: {},
      },
      {
        id: 'stock-by-month',
        brief: 'weeks of stock each month during last 24 months against six weeks as trend',
        look: {
          bands: { of: 'benchmark', edges: [0.25, 0.1], names: ['far off', 'off', 'near six weeks'] },
          fit: 'tight',
        },
      },
      {
        id: 'best-reps',
        brief: 'net sales by rep each month during last 12 months as league, keep 10 highest',
        look: {},
      },
      {
        id: 'status',
        brief:
          'net sales, share of net sales, margin rate, delivery score, delivery days by territory during fiscal 2026 to date against last year as table, sorted by value down',
        look: {
          columns: [
            { of: 'net sales', cell: 'bullet' },
            { of: 'margin rate', cell: 'ramp' },
            { of: 'delivery score', cell: 'dot' },
            { of: 'delivery days', cell: 'face' },
          ],
        },
      },
      {
        id: 'latest-day',
        brief: 'net sales during latest day against previous day as headline',
        look: { references: ['last year', 'plan'], spark: true },
      },
    ],
    hierarchies: [
      ['territory', 'rep'],
      ['family', 'product line'],
    ],
    pages: [
      {
        id: 'month',
        title: 'Pellwether, the year so far',
        filters: [
          { field: 'product line', choice: 'several' },
          { field: 'channel', choice: 'several' },
          { field: 'territory', choice: 'several' },
        ],
        period: true,
        rows: [
          {
            height: 300,
            blocks: [
              { figure: 'territories', share: 5 },
              { figure: 'what-changed', share: 4 },
              { figure: 'latest-day', share: 3 },
            ],
          },
          {
            height: 260,
            blocks: [
              { figure: 'course', share: 5 },
              { figure: 'ranks', share: 4 },
              {
                text: `# What to know\n- Net sales reach {actual} by {as of}: {ahead of|level with|behind} what the plan asks by then.\n- ${HIDDEN}\n- {ahead} of {members} product lines are ahead of it, {behind} behind.`,
                about: 'product-lines',
                claims: [{ kind: 'hidden offset', member: 'Keys', by: 'Percussion', text: HIDDEN }],
                share: 3,
              },
            ],
          },
        ],
      },
    ],
  });
}
