import { parse, printParseErrorCode, type ParseError } from 'jsonc-parser';
import { ValidationError } from 'yup';
import { Problem } from '../problem';
import { REPORT_VERSION, type Report, type TableEntry } from './report';
import { nameOfFiles } from './pattern';
import { reportSchema } from './schema';
import { inFileOrder } from './write';

/** A report file may not be larger than this many characters. */
const MOST_TEXT = 20_000_000;

/**
 * A report from the text of its file. Throws a `Problem` that names the line of a mistake in the JSON, or the key that is
 * wrong, missing or unknown; a file of a newer version is refused.
 */
export function readReport(text: string, file = 'report'): Report {
  if (text.length > MOST_TEXT)
    throw new Problem(
      'too-large',
      'the report file is larger than 20 MB',
      { in: file },
      'a report holds no data; keep rows in table files',
    );
  refuseDepth(text, file);
  const errors: ParseError[] = [];
  const plain = text.replace(/^\uFEFF/, '');
  parse(plain, errors, { allowTrailingComma: false, disallowComments: true });
  const first = errors[0];
  if (first) {
    const before = plain.slice(0, first.offset);
    const line = before.split('\n').length;
    const column = first.offset - before.lastIndexOf('\n');
    const what = printParseErrorCode(first.error)
      .replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`)
      .toLowerCase();
    throw new Problem(
      'broken-json',
      `the JSON is broken at character ${column}: ${what}`,
      { in: file, line },
      'mend that place, or open an earlier copy of the file',
    );
  }
  return checkReport(JSON.parse(plain), file);
}

/** Throws a `Problem` for JSON that lies deeper than it is taken apart. */
function refuseDepth(text: string, file: string): void {
  let deep = 0;
  let isText = false;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === QUOTE) isText = !isText;
    else if (isText && code === BACKSLASH) at++;
    else if (!isText && OPENS.has(code)) deep++;
    else if (!isText && CLOSES.has(code)) deep--;
    if (deep > MOST_DEPTH) throw tooDeep(file);
  }
}

const [QUOTE, BACKSLASH] = [0x22, 0x5c];
const OPENS = new Set([0x5b, 0x7b]);
const CLOSES = new Set([0x5d, 0x7d]);

const tooDeep = (file: string) =>
  new Problem(
    'too-deep',
    'the report is nested deeper than reports are',
    { in: file },
    'see docs/formats.md for what may stand there',
  );

/** A report from plain data, with defaults filled in. Throws a `Problem` that names the key. */
export function checkReport(value: unknown, file = 'report'): Report {
  if (value === null || typeof value !== 'object' || Array.isArray(value)) {
    throw new Problem(
      'not-a-report',
      'this is not a report',
      { in: file },
      'a report file begins with { "boldRuler": 1, … }',
    );
  }
  refuseOddKeys(value, file);
  const version = (value as { boldRuler?: unknown }).boldRuler;
  if (version !== undefined && !Number.isInteger(version))
    throw new Problem(
      'not-a-report',
      `“boldRuler” is a whole number, not ${JSON.stringify(version)?.slice(0, 40)}`,
      { in: file },
      'a report file begins with { "boldRuler": 1, … }',
    );
  if (typeof version === 'number' && version > REPORT_VERSION) {
    throw new Problem(
      'newer-version',
      `this report was written by a newer version (${version}; this one reads ${REPORT_VERSION})`,
      { in: file },
      'update Bold Ruler and open it again',
    );
  }
  try {
    const report = reportSchema.validateSync(value, {
      strict: false,
      abortEarly: true,
      stripUnknown: false,
    }) as unknown as Report;
    refuseCircles(report, file);
    return inFileOrder(withPatterns(report));
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    const message = error.message.replace(/^this /, 'the report ').replace(/, but the final value was: [^]*$/, '');
    throw new Problem('wrong-report', message, { in: file }, 'see docs/formats.md for what may stand there');
  }
}

/** Files that are named together have one name, a pattern where it is one, wherever a report is at work. */
function withPatterns(report: Report): Report {
  const named = ({ source }: TableEntry) => (source as { readonly files?: string | readonly string[] }).files;
  if (!report.tables.some((entry) => named(entry) !== undefined || entry.source.database !== undefined)) return report;
  const tables = report.tables.map((entry): TableEntry => {
    const { database, table } = entry.source;
    // What is told of where rows come from names the table, or of a query the report's own name for it.
    if (database !== undefined) return { ...entry, source: { ...entry.source, file: table ?? entry.id } };
    const pattern = named(entry);
    if (pattern === undefined) return entry;
    if (typeof pattern !== 'string') return { ...entry, source: { ...entry.source, file: nameOfFiles(pattern) } };
    const { files: _, ...source } = entry.source;
    return { ...entry, source: { ...source, file: pattern } };
  });
  return { ...report, tables };
}

/** A report is at most this many objects deep. */
const MOST_DEPTH = 24;

/** Under these keys stand the names of fields and members, which may be any but one. */
const NAMES_UNDER: ReadonlySet<string> = new Set(['same', 'match']);

/** Refuses keys that mean something to the engine rather than to a report, and data deeper than any report. */
function refuseOddKeys(value: unknown, file: string, depth = 0, areNames = false): void {
  if (value === null || typeof value !== 'object') return;
  if (depth > MOST_DEPTH) throw tooDeep(file);
  for (const [key, inner] of Object.entries(value)) {
    if (areNames ? key === '__proto__' : key in Object.prototype)
      throw new Problem('odd-key', `a key is called ${key}`, { in: file }, 'give it another name');
    refuseOddKeys(inner, file, depth + 1, areNames || NAMES_UNDER.has(key));
  }
}

/** A scaled benchmark may not rest on itself, over however many others. */
function refuseCircles({ benchmarks }: Report, file: string): void {
  for (const { name } of benchmarks) {
    const seen: string[] = [];
    for (let next: string | undefined = name; next !== undefined;) {
      if (seen.includes(next)) {
        throw new Problem(
          'circular-benchmark',
          `benchmark “${name}” rests on itself: ${[...seen, next].join(' → ')}`,
          { in: file },
          'let one of them be “of” another benchmark, or of "measure"',
        );
      }
      seen.push(next);
      const benchmark = benchmarks.find((b) => b.name === next);
      next = benchmark?.kind === 'scaled' ? benchmark.of : undefined;
    }
  }
}
