import { isoDay } from '@bold-ruler/core/calendar';
import { Problem } from '@bold-ruler/core/problem';
import { checkReport, writeReport, type Report } from '@bold-ruler/core/report';
import { daysIn, fiscalMonthsIn } from '@bold-ruler/core/reading';
import { textOf } from './input';

/**
 * Changes a report by words such as `calendar.fiscalYearStart=9` or `measures.net sales.aim=cut`. A step of the path is a
 * key, or in a list the id, the name or the place of an entry. Values are read as JSON where they are JSON, else as text.
 */
export function applySettings(report: Report, settings: readonly string[], file: string): Report {
  if (settings.length === 0) return report;
  // As it stands in a file, which is what paths are about.
  const changed = JSON.parse(writeReport(report)) as Record<string, unknown>;
  for (const setting of settings) set(changed, setting);
  return checkReport(changed, file);
}

function set(root: Record<string, unknown>, setting: string): void {
  const at = setting.indexOf('=');
  if (at < 1)
    throw new Problem(
      'usage',
      `--set takes PATH=VALUE, not “${setting}”`,
      undefined,
      'write for example --set calendar.fiscalYearStart=9',
    );
  const path = setting.slice(0, at).split('.');
  let inside: unknown = root;
  for (const step of path.slice(0, -1)) inside = enter(inside, step, setting);
  const last = path[path.length - 1]!;
  if (inside === null || typeof inside !== 'object' || Array.isArray(inside) || last === '__proto__')
    throw unknownPath(last, setting);
  const text = setting.slice(at + 1);
  const read = IN_FILES[path.join('.')];
  // A list may stand in a file of its own.
  (inside as Record<string, unknown>)[last] =
    read && text !== '' && !/^\s*[[{]/.test(text) ? read(textOf(text, 'list'), text) : valueOf(text);
}

/** Settings that may name a file in place of their value. */
const IN_FILES: Readonly<Partial<Record<string, (text: string, file: string) => unknown>>> = {
  'calendar.months': fiscalMonthsIn,
  'calendar.holidays': (text) => daysIn(text).days.map(isoDay),
};

function enter(value: unknown, step: string, setting: string): unknown {
  const found = Array.isArray(value)
    ? (value.find((item: { id?: unknown; name?: unknown }) => item.id === step || item.name === step) ??
      (/^\d+$/.test(step) ? (value as unknown[])[Number(step)] : undefined))
    : value !== null && typeof value === 'object' && Object.hasOwn(value, step)
      ? (value as Record<string, unknown>)[step]
      : undefined;
  if (found === undefined) throw unknownPath(step, setting);
  return found;
}

function unknownPath(step: string, setting: string): Problem {
  return new Problem(
    'unknown-setting',
    `the report has nothing called “${step}”`,
    { in: `--set ${setting}` },
    'a path is made of keys, and of ids or names in lists, as in measures.net.aim=cut',
  );
}

function valueOf(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return text;
  }
}
