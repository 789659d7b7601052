/** Twelve figures, every form among them. */
export const PAGE = [
  'net sales by territory during fiscal 2026 to date against plan as bullet',
  'net sales by product line during fiscal 2026 to date against last year as waterfall',
  'cumulative net sales each day during fiscal 2026 against plan as pace',
  'rank of net sales by territory each month during fiscal 2025 as bump',
  'net sales by account during last 3 months as bars, keep 10 largest either sign',
  'net sales during latest day against previous day as headline',
  'net sales by rep each month during fiscal 2026 to date as league, keep 5 highest',
  'net sales, share of net sales, delivery score by territory during fiscal 2026 to date as table',
  'margin rate each month during last 24 months as trend',
  'smoothed 3 net sales each month during last 36 months as trend',
  'delivery days by territory during fiscal 2026 to date against last year as pairs',
  'net sales during fiscal 2026 to date against plan as dial',
];
