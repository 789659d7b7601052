import { NO_DAY } from '../calendar';
import {
  checkExpression,
  compile,
  keyOf,
  readExpression,
  type Compiled,
  type Expression,
  type Leaves,
  type ValueType,
} from '../measure';
import type { Decimals } from '../number';
import { codesFor, columnOf, isShared, once, type Column, type Table } from '../table';

/** Column types of a table, as the expression language sees them. */
export function columnTypes(table: Table): Map<string, ValueType> {
  return new Map(table.columns.map((column) => [column.name, column.kind]));
}

/** A column as the leaf of an expression: its value at a row. Nothing of the column is read before a value is. */
function leafOf(column: Column): Compiled {
  switch (column.kind) {
    case 'number': {
      let values: typeof column.values | undefined;
      return { type: 'number', decimals: column.decimals, at: (row) => (values ??= column.values)[row]! };
    }
    case 'date': {
      let days: typeof column.days | undefined;
      return {
        type: 'date',
        decimals: 0,
        at(row) {
          const day = (days ??= column.days)[row]!;
          return day === NO_DAY ? NaN : day;
        },
      };
    }
    case 'yesno': {
      let codes: typeof column.codes | undefined;
      return {
        type: 'yesno',
        decimals: 0,
        at(row) {
          const code = (codes ??= column.codes)[row]!;
          return code === 0 ? NaN : code - 1;
        },
      };
    }
    case 'text': {
      let codes: typeof column.codes | undefined;
      let members: typeof column.members | undefined;
      return {
        type: 'text',
        at(row) {
          const code = (codes ??= column.codes)[row]!;
          return code === 0 ? null : (members ??= column.members)[code]!;
        },
      };
    }
  }
}

/** Numbers computed for every row of a table, kept while the table is. */
export interface Computed {
  readonly values: Float64Array;
  readonly decimals: Decimals;
  readonly blanks: boolean;
}

const kept = new WeakMap<Table, Map<string, Computed>>();

/** The value of a checked expression of numbers, dates or yes and no at every row. A plain column is not copied. */
export function computed(table: Table, e: Expression): Computed {
  if (e.kind === 'column') {
    const column = columnOf(table, e.name);
    if (column?.kind === 'number')
      return { values: column.values, decimals: column.decimals, blanks: column.blank > 0 };
  }
  let cache = kept.get(table);
  if (!cache) kept.set(table, (cache = new Map()));
  const key = keyOf(e);
  let found = cache.get(key);
  if (!found) {
    const compiled = compile(e, rowLeaves(table));
    const bytes = 8 * table.rows;
    // Threads share what is computed from what they share.
    const values = isShared(table) ? new Float64Array(new SharedArrayBuffer(bytes)) : new Float64Array(table.rows);
    let blanks = false;
    if (compiled.type === 'text') {
      // To the aggregates that take texts it matters whether there is one, and which are the same: each has a number.
      const codes = new Map<string, number>();
      for (let row = 0; row < values.length; row++) {
        const text = compiled.at(row);
        if (text !== null && !codes.has(text)) codes.set(text, codes.size + 1);
        values[row] = text === null ? NaN : codes.get(text)!;
        if (text === null) blanks = true;
      }
      found = { values, decimals: 0, blanks };
    } else {
      for (let row = 0; row < values.length; row++) if (Number.isNaN((values[row] = compiled.at(row)))) blanks = true;
      found = { values, decimals: compiled.decimals, blanks };
    }
    cache.set(key, found);
  }
  return found;
}

const truths = new WeakMap<Float64Array, Uint8Array>();

/** 1 for every row for which a checked condition is true. */
export function truthOf(table: Table, condition: Expression): Uint8Array {
  const { values } = computed(table, condition);
  let truth = truths.get(values);
  if (!truth) {
    truth = isShared(table) ? new Uint8Array(new SharedArrayBuffer(values.length)) : new Uint8Array(values.length);
    for (let row = 0; row < values.length; row++) truth[row] = values[row] === 1 ? 1 : 0;
    truths.set(values, truth);
  }
  return truth;
}

function rowLeaves(table: Table): Leaves {
  return {
    column: (name) => leafOf(columnOf(table, name)!),
    aggregate: () => {
      throw new Error('an aggregate cannot stand at row level');
    },
  };
}

/** The table with its derived columns, each of which may use those before it. Throws a `Problem` for a wrong expression. */
export function withDerived(
  table: Table,
  derived: readonly { readonly name: string; readonly expression: string }[] = [],
): Table {
  return derived.reduce((grown, { name, expression }) => {
    const { expression: checked } = checkExpression(
      readExpression(expression),
      expression,
      columnTypes(grown),
      'rows',
      grown.aliases,
    );
    return {
      ...grown,
      columns: [
        ...grown.columns.filter((column) => column.name !== name),
        deriveColumn(grown, name, expression, checked),
      ],
      derived: [...(grown.derived ?? []).filter((one) => one.name !== name), { name, expression }],
    };
  }, table);
}

/** A column whose values are computed when something reads them: what no figure asks for costs nothing. */
function deriveColumn(table: Table, name: string, text: string, e: Expression): Column {
  const compiled = compile(e, rowLeaves(table));
  const convention = `computed: ${text}`;
  if (compiled.type === 'text') {
    const made = once(() => textsOf(compiled, table.rows));
    return {
      kind: 'text',
      name,
      get members() {
        return made().members;
      },
      get codes() {
        return made().codes;
      },
      get blank() {
        return made().blank;
      },
      convention,
    };
  }
  const found = () => computed(table, e);
  const blanks = once(() => found().values.reduce((n, value) => n + (Number.isNaN(value) ? 1 : 0), 0));
  const common = { name, convention };
  switch (compiled.type) {
    case 'number':
      return {
        kind: 'number',
        ...common,
        decimals: compiled.decimals,
        get values() {
          return found().values;
        },
        get blank() {
          return blanks();
        },
      };
    case 'date': {
      const days = once(() => Int32Array.from(found().values, (value) => (Number.isNaN(value) ? NO_DAY : value)));
      return {
        kind: 'date',
        ...common,
        grain: 'day',
        read: 'yyyy-MM-dd',
        get days() {
          return days();
        },
        get blank() {
          return blanks();
        },
      };
    }
    case 'yesno': {
      const codes = once(() => Uint8Array.from(found().values, (value) => (Number.isNaN(value) ? 0 : value + 1)));
      return {
        kind: 'yesno',
        ...common,
        members: ['', 'no', 'yes'],
        get codes() {
          return codes();
        },
        get blank() {
          return blanks();
        },
      };
    }
  }
}

/** Texts of all rows as members and codes. */
function textsOf(compiled: Extract<Compiled, { type: 'text' }>, rows: number) {
  const members = [''];
  const codeOf = new Map<string, number>();
  const wide = new Uint32Array(rows);
  let blank = 0;
  for (let row = 0; row < rows; row++) {
    const value = compiled.at(row);
    if (value === null || value === '') {
      blank++;
      continue;
    }
    let code = codeOf.get(value);
    if (code === undefined) {
      code = members.push(value) - 1;
      codeOf.set(value, code);
    }
    wide[row] = code;
  }
  const codes = codesFor(members.length, rows);
  codes.set(wide);
  return { members, codes, blank };
}
