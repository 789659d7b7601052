import { counted, listed } from '../problem';
import { finding, inFile, type Finding, type Said } from '../level';
import { isInDatabase } from '../report';
import { linesNamed, type FieldsProfile } from '../table';
import type { OpenReport } from '../workspace';
import { data } from './data';
import { tables } from './tables';

/** Lines named in a sentence. */
const MOST_LINES = 5;

const WHY = {
  'reading-unclear': 'read the other way, every day or number of the column is another one',
  'totals-among-rows': 'a total among its rows counts them twice',
  'notes-among-rows': 'a note counts as a row wherever rows are counted',
  'periods-as-columns': 'periods that stand beside one another have no place in time',
  'tables-alike': 'rows of the same kind in two tables are in no figure together',
  'lookup-offered': 'what only another table knows of a row can be in no figure until it is looked up',
} as const;

/** What the files of a report leave open, as findings: each is decided at the Data step, where its effect is shown before it is taken. */
export async function asksOf(desk: OpenReport): Promise<Finding[]> {
  const asked = desk.report.tables.map(async (entry): Promise<Finding[]> => {
    if (isInDatabase(entry) || !desk.tables.has(entry.id)) return [];
    const { id } = entry;
    const profile = await data.profile(desk, id);
    return [...(await ofProfile(profile)), ...ofOthers(desk, id)].map(({ code, ...said }) =>
      finding(desk.report, code, WHY[code], { ...said, about: { kind: 'table', id }, fact: said.fact ?? code }),
    );
  });
  return (await Promise.all(asked)).flat();
}

type Asked = Omit<Said, 'about'> & { readonly code: keyof typeof WHY };

async function ofProfile(profile: FieldsProfile): Promise<Asked[]> {
  const { doubts, totalsRows, totalsFiles, totalsSums = {}, noteRows, noteFiles, wide } = profile;
  const found: Asked[] = doubts.map(({ column, readings }) => ({
    code: 'reading-unclear',
    severity: 'warning',
    text: `in “${column}” no row tells whether “${readings[0]!.raw}” is ${listed(
      readings.map(({ as }) => as),
      'or',
    )}; it is read as the first`,
    fact: column,
    view: 'columns',
  }));
  if (totalsRows.length > 0) {
    const lines = { lines: totalsRows, ...(totalsFiles ? { files: totalsFiles } : {}) };
    const amount = await inFile.amount(totalsSums, () => profile);
    found.push({
      code: 'totals-among-rows',
      severity: 'warning',
      text: `${counted(totalsRows.length, 'row')} (${linesNamed(lines, totalsRows.length, MOST_LINES)}) ${totalsRows.length === 1 ? 'looks like a total' : 'look like totals'}${inFile.written(amount)}`,
      amount,
      lines,
      view: 'rows',
    });
  }
  if (noteRows.length > 0) {
    const lines = { lines: noteRows, ...(noteFiles ? { files: noteFiles } : {}) };
    found.push({
      code: 'notes-among-rows',
      severity: 'note',
      text: `${counted(noteRows.length, 'row')} (${linesNamed(lines, noteRows.length, MOST_LINES)}) ${noteRows.length === 1 ? 'looks like a note' : 'look like notes'} below the rows`,
      lines,
      view: 'rows',
    });
  }
  if (wide) {
    const columns = wide.values.flatMap((one) => one.columns);
    found.push({
      code: 'periods-as-columns',
      severity: 'note',
      text: `${counted(columns.length, 'column')} ${columns.length === 1 ? 'is' : 'are'} named after ${wide.grain}s, such as “${columns[0]}”`,
      view: 'columns',
    });
  }
  return found;
}

/** What a table may have to do with others. */
function ofOthers(desk: OpenReport, id: string): Asked[] {
  const { offers, alike } = tables.lookups(desk, id);
  const found: Asked[] = offers.map(({ to, brings }) => ({
    code: 'lookup-offered',
    severity: 'note',
    text: `“${to}” fits the rows of “${id}” and would bring ${listed(
      brings.map((name) => `“${name}”`),
      'and',
    )}`,
    fact: to,
    view: 'lookups',
  }));
  if (alike.length > 0)
    found.push({
      code: 'tables-alike',
      severity: 'note',
      text: `${listed(
        alike.map((name) => `“${name}”`),
        'and',
      )} ${alike.length === 1 ? 'has' : 'have'} the same columns as “${id}”`,
      view: 'columns',
    });
  return found;
}
