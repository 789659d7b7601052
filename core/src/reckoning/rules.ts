import { encodeRow, litValue } from '../highlight';
import { judgementAt, type Cells } from '../query';
import type { Highlight, HighlightRule } from '../report';
import type { Sentence } from './reckoning';

/** The rule that paints a row, and why those before it do not. */
export function ruleSentences(
  highlight: Highlight,
  cells: Cells,
  row: number,
  write: (value: number) => string,
): Sentence[] {
  const { rules, ramp } = highlight;
  const { rule: found, ink } = encodeRow(highlight, cells, row);
  const lookedAt = lookedWords(highlight, cells, row, write);
  const at = rules.findIndex(({ id }) => id === found);
  const before = (at < 0 ? rules : rules.slice(0, at)).map(
    (rule) => `“${rule.id}” (${whenWords(rule)}) ${rule.on ? 'does not fit' : 'is switched off'}`,
  );
  const rule = rules[at];
  const paints = rule
    ? `rule “${rule.id}” of highlight “${highlight.name}” fits (${whenWords(rule)}) and paints it ${ink}`
    : ramp
      ? `no rule of highlight “${highlight.name}” fits, and its ramp mixes ${ink}`
      : `no rule of highlight “${highlight.name}” fits, so it is painted in plain ink, ${ink}`;
  const passed = before.length > 0 && rules.length <= 12 ? `; ${before.join(', ')}` : '';
  return [{ about: 'rule', text: `${lookedAt}${paints}${passed}.` }];
}

function lookedWords(highlight: Highlight, cells: Cells, row: number, write: (value: number) => string): string {
  if (highlight.on === 'standing') {
    const { standing } = judgementAt(cells, row);
    return standing ? `Its standing is ${standing}: ` : 'It has no standing: ';
  }
  if (highlight.on === 'member') return '';
  const value = litValue(highlight, cells, row);
  const said = Number.isNaN(value)
    ? 'blank'
    : highlight.on === 'value' || highlight.on === 'gap'
      ? write(value)
      : String(value);
  return `Its ${highlight.on === 'expression' ? (highlight.expression ?? '') : highlight.on} is ${said}: `;
}

function whenWords({ when }: HighlightRule): string {
  if ('standing' in when) return when.standing;
  if ('members' in when) return when.members.join(', ');
  if ('highest' in when) return `the ${when.highest} highest${when.within ? ' of its row' : ''}`;
  if ('lowest' in when) return `the ${when.lowest} lowest${when.within ? ' of its row' : ''}`;
  const { from, to } = when;
  if (from === undefined) return to === undefined ? 'any value' : `below ${to}`;
  return to === undefined ? `from ${from}` : `from ${from} to below ${to}`;
}
