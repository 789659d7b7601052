import { didYouMean, Problem, type Fix } from '../problem';
import {
  AGGREGATES,
  CAST_TYPES,
  DATE_PARTS,
  SCALARS,
  withParts,
  type Aggregate,
  type At,
  type Expression,
} from './expression';
import { parse, SyntaxError } from './grammar';

/** What the grammar gives for `name(…)` before it is known whether the name is an aggregate's. */
interface Call {
  readonly kind: 'call';
  readonly name: string;
  readonly star: boolean;
  readonly distinct: boolean;
  readonly args: readonly Expression[];
  readonly filter: Expression | null;
  readonly at: At;
}

const FUNCTIONS: readonly string[] = [...AGGREGATES, ...SCALARS, 'extract', 'cast'];

/** Expressions that were read: those of a report's measures are asked for with every figure. */
const known = new Map<string, Expression>();
const MOST_KNOWN = 500;

/** Reads an expression. Throws a `Problem` that points at the first word it could not read. */
export function readExpression(text: string): Expression {
  let expression = known.get(text);
  if (!expression) {
    expression = readAnew(text);
    if (known.size >= MOST_KNOWN) known.clear();
    known.set(text, expression);
  }
  return expression;
}

function readAnew(text: string): Expression {
  if (text.trim() === '')
    throw new Problem('empty-expression', 'the expression is empty', undefined, 'write one such as sum(net)');
  refuseDepth(text);
  let tree: Expression;
  try {
    tree = parse(text);
  } catch (error) {
    if (error instanceof RangeError) throw tooDeep(text);
    if (!(error instanceof SyntaxError)) throw error;
    const from = error.location.start.offset;
    const found =
      error.found === null ? 'the expression ends too early' : `“${text.slice(from).split(/\s/)[0]}” cannot stand here`;
    throw new Problem(
      'expression-syntax',
      found,
      { in: `expression “${text}”`, span: [from, Math.max(from + 1, error.location.end.offset)] },
      wayOut(text, from),
    );
  }
  return resolveCalls(tree, text);
}

/** Brackets, cases and signs may lie this deep in one another, and an expression may have so many words. */
const MOST_DEEP = 60;
const MOST_WORDS = 3000;

const tooDeep = (text: string) =>
  new Problem(
    'expression-too-deep',
    'the expression is nested deeper, or longer, than expressions are taken apart',
    { in: `expression “${text.length > 80 ? `${text.slice(0, 80)} …` : text}”` },
    'part it: put what stands inside into a derived column',
  );

/** Throws a `Problem` for an expression that would take too long to be read. */
function refuseDepth(text: string): void {
  let [deep, words, signs] = [0, 0, 0];
  for (const [token] of text.matchAll(TOKEN)) {
    if (token.trim() === '') continue;
    const word = token.toLowerCase();
    if (word === '(' || word === 'case') deep++;
    else if (word === ')' || word === 'end') deep--;
    signs = word === 'not' || word === '-' || word === '+' ? signs + 1 : 0;
    if (++words > MOST_WORDS || deep > MOST_DEEP || signs > MOST_DEEP) throw tooDeep(text);
  }
}

const TOKEN = /\s+|'(?:[^']|'')*'|"(?:[^"]|"")*"|[\w.]+|<=|>=|<>|[^]/gu;
const OPERATOR = /^([-+*/=<>,]|<=|>=|<>|and|or|not|in|between|like|is|when|then|else|where|by|distinct|case|from|as)$/i;

/** What to do about the place where reading stopped, from what is open there and what stands before it. */
function wayOut(text: string, from: number): string {
  const before =
    text
      .slice(0, from)
      .match(TOKEN)
      ?.filter((token) => token.trim() !== '') ?? [];
  const here = text.slice(from).match(TOKEN)?.[0] ?? '';
  const last = before[before.length - 1] ?? '';
  const open: string[] = [];
  for (const token of before) {
    const word = token.toLowerCase();
    if (token === '(' || word === 'case') open.push(word);
    else if ((token === ')' && open[open.length - 1] === '(') || (word === 'end' && open[open.length - 1] === 'case'))
      open.pop();
  }
  if (here === "'" || last === "'") return "close the text with another single quote: '";
  if (here === '"' || last === '"') return 'close the name with another double quote: "';
  if (OPERATOR.test(last) || last === '(' || last === '')
    return last === ''
      ? 'begin with a column, a number or a function'
      : `a column, a number or a function follows “${last}”`;
  if (here === ')') return 'no bracket is open here: take it away, or open one before';
  if (FUNCTIONS.includes(last.toLowerCase()) && here !== '') return `put what it is of into brackets: ${last}(…)`;
  if (here === '') {
    if (open[open.length - 1] === '(') return 'close the bracket: )';
    if (open[open.length - 1] === 'case') return 'finish the case with “end”';
    return FUNCTIONS.includes(last.toLowerCase()) ? `put what it is of into brackets: ${last}(…)` : 'finish it';
  }
  return 'put + - * / or a comparison before it, or a comma between the arguments of a function';
}

/** What spreadsheets call a choice between two values. */
const CHOICES: readonly string[] = ['if', 'iif'];

/** A choice as SQL writes it, of what stands between the brackets; null for anything else. */
function caseInstead({ name, args, at: [from, to] }: Call, text: string): string | null {
  if (!CHOICES.includes(name) || args.length < 2 || args.length > 3) return null;
  const parts = [''];
  let deep = 0;
  for (const [token] of text.slice(text.indexOf('(', from) + 1, to).matchAll(TOKEN)) {
    if (token === '(') deep++;
    else if (token === ')' && deep-- === 0) break;
    if (token === ',' && deep === 0) parts.push('');
    else parts[parts.length - 1] += token;
  }
  const [when, then, otherwise] = parts.map((part) => part.trim());
  return `case when ${when} then ${then}${otherwise === undefined ? '' : ` else ${otherwise}`} end`;
}

/** Tells aggregates from scalar functions and refuses names that are neither. */
function resolveCalls(node: Expression, text: string): Expression {
  const inside = (e: Expression) => resolveCalls(e, text);
  const fail = (code: string, sentence: string, at: At, remedy: string, fixes: readonly Fix[] = []) =>
    new Problem(code, sentence, { in: `expression “${text}”`, span: at }, remedy, fixes);
  switch (node.kind) {
    case 'call': {
      const call = node as unknown as Call;
      const args = call.args.map(inside);
      const filter = call.filter && inside(call.filter);
      if ((AGGREGATES as readonly string[]).includes(call.name) && call.name !== 'percentile_cont') {
        const fn = call.name as Aggregate['fn'];
        if (call.star ? fn !== 'count' : args.length !== 1) {
          throw fail(
            'wrong-arguments',
            `${fn} takes one argument`,
            call.at,
            fn === 'count' ? 'write count(*) or count(column)' : `write ${fn}(column)`,
          );
        }
        return { kind: 'aggregate', fn, of: args[0] ?? null, distinct: call.distinct, filter, at: call.at };
      }
      const name = SCALARS.find((scalar) => scalar === call.name);
      const asCase = name === undefined ? caseInstead(call, text) : null;
      if (asCase) {
        const [from, to] = call.at;
        throw fail('unknown-function', `there is no function “${call.name}”`, call.at, `write “${asCase}”`, [
          { text: asCase, from, to },
        ]);
      }
      if (name === undefined)
        throw fail(
          'unknown-function',
          `there is no function “${call.name}”`,
          call.at,
          didYouMean(call.name, FUNCTIONS, 'function'),
        );
      if (call.filter)
        throw fail(
          'filter-on-scalar',
          `“filter” belongs to an aggregate, and ${name} is none`,
          call.at,
          'put it behind sum(…), avg(…), …',
        );
      const [fewest, most] =
        name === 'nullif'
          ? [2, 2]
          : name === 'round'
            ? [1, 2]
            : name === 'abs' || name === 'sign'
              ? [1, 1]
              : [1, Infinity];
      if (args.length < fewest || args.length > most || call.star || call.distinct) {
        throw fail(
          'wrong-arguments',
          `${name} takes ${fewest === most ? fewest : most === Infinity ? 'one or more' : `${fewest} or ${most}`} argument${most === 1 ? '' : 's'}`,
          call.at,
          'see the list of functions in docs/calculations.md',
        );
      }
      return { kind: 'call', name, args, at: call.at };
    }
    case 'extract':
      if (!DATE_PARTS.includes(node.part))
        throw fail(
          'unknown-part',
          `there is no part “${node.part}” of a date`,
          node.at,
          didYouMean(node.part, DATE_PARTS, 'part'),
        );
      return { ...node, of: inside(node.of) };
    case 'cast':
      if (!CAST_TYPES.includes(node.type))
        throw fail(
          'unknown-type',
          `there is no type “${node.type}”`,
          node.at,
          didYouMean(node.type, CAST_TYPES, 'type'),
        );
      return { ...node, of: inside(node.of) };
    case 'aggregate':
      return { ...node, of: node.of && inside(node.of), filter: node.filter && inside(node.filter) };
    default:
      return withParts(node, inside);
  }
}
