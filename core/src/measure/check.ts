import { readIsoDay } from '../calendar';
import { didYouMean, Problem } from '../problem';
import type { At, Expression } from './expression';

export type ValueType = 'number' | 'text' | 'date' | 'yesno';

/** Columns an expression may read: name to type. */
export type Columns = ReadonlyMap<string, ValueType>;

const NO_ALIASES: ReadonlyMap<string, string> = new Map();

/** The type of a checked expression; null for one that is always null. */
export type CheckedType = ValueType | null;

/**
 * Checks names, types and levels, and gives columns their exact names (names match without regard to case when only one does).
 * `aliases` are further names of columns, such as `products.family`. At level `rows` no aggregate may stand; at level `groups` no column may stand outside one.
 */
export function checkExpression(
  e: Expression,
  text: string,
  columns: Columns,
  level: 'rows' | 'groups',
  aliases: ReadonlyMap<string, string> = NO_ALIASES,
): { expression: Expression; type: CheckedType } {
  const place = (at: At) => ({ in: `expression “${text}”`, span: at });
  const refuse = (code: string, sentence: string, at: At, remedy: string): never => {
    throw new Problem(code, sentence, place(at), remedy);
  };

  function nameOf(node: Expression & { kind: 'column' }): string {
    if (columns.has(node.name)) return node.name;
    const alike = [...columns.keys()].filter((name) => name.toLowerCase() === node.name.toLowerCase());
    if (alike.length === 1) return alike[0]!;
    const meant = [...aliases].filter(([alias]) => alias.toLowerCase() === node.name.toLowerCase());
    if (meant.length === 1) return meant[0]![1];
    return refuse(
      'unknown-column',
      `there is no column “${node.name}”`,
      node.at,
      didYouMean(node.name, [...columns.keys()], 'column'),
    );
  }

  function want(node: Expression, at: 'rows' | 'groups', wanted: ValueType, by: string): Expression {
    const { expression, type } = visit(node, at);
    if (type !== null && type !== wanted)
      refuse(
        'wrong-type',
        `${by} needs a ${word(wanted)}, and this is a ${word(type)}`,
        node.at,
        'use another column, or cast(… as …)',
      );
    return expression;
  }

  /** Checks parts that must be of one type, whichever. */
  function alike(
    nodes: readonly Expression[],
    at: 'rows' | 'groups',
    by: string,
  ): { expressions: Expression[]; type: CheckedType } {
    let type: CheckedType = null;
    const expressions = nodes.map((node) => {
      const checked = visit(node, at);
      if (type !== null && checked.type !== null && checked.type !== type) {
        refuse(
          'wrong-type',
          `${by} compares a ${word(type)} with a ${word(checked.type)}`,
          node.at,
          'make both sides of one type',
        );
      }
      type ??= checked.type;
      return checked.expression;
    });
    return { expressions, type };
  }

  function visit(node: Expression, at: 'rows' | 'groups'): { expression: Expression; type: CheckedType } {
    switch (node.kind) {
      case 'number':
        return { expression: node, type: 'number' };
      case 'text':
        return { expression: node, type: 'text' };
      case 'yesno':
        return { expression: node, type: 'yesno' };
      case 'null':
        return { expression: node, type: null };
      case 'date':
        if (readIsoDay(node.text) === null)
          refuse('not-a-date', `“${node.text}” is not a day`, node.at, "write it as date '2026-03-18'");
        return { expression: node, type: 'date' };
      case 'column': {
        const name = nameOf(node);
        if (at === 'groups') {
          refuse(
            'bare-column',
            `column “${name}” stands outside an aggregate`,
            node.at,
            `say which of its values is meant, such as sum(${quoted(name)})`,
          );
        }
        return { expression: { ...node, name }, type: columns.get(name)! };
      }
      case 'unary':
        return node.op === '-'
          ? { expression: { ...node, of: want(node.of, at, 'number', '“−”') }, type: 'number' }
          : { expression: { ...node, of: want(node.of, at, 'yesno', '“not”') }, type: 'yesno' };
      case 'binary': {
        const wanted = node.op === 'and' || node.op === 'or' ? 'yesno' : 'number';
        const left = want(node.left, at, wanted, `“${node.op}”`);
        return { expression: { ...node, left, right: want(node.right, at, wanted, `“${node.op}”`) }, type: wanted };
      }
      case 'compare': {
        const { expressions } = alike([node.of, node.right], at, `“${node.op}”`);
        return { expression: { ...node, of: expressions[0]!, right: expressions[1]! }, type: 'yesno' };
      }
      case 'in': {
        const { expressions } = alike([node.of, ...node.list], at, '“in”');
        return { expression: { ...node, of: expressions[0]!, list: expressions.slice(1) }, type: 'yesno' };
      }
      case 'between': {
        const { expressions } = alike([node.of, node.low, node.high], at, '“between”');
        return {
          expression: { ...node, of: expressions[0]!, low: expressions[1]!, high: expressions[2]! },
          type: 'yesno',
        };
      }
      case 'like':
        return { expression: { ...node, of: want(node.of, at, 'text', '“like”') }, type: 'yesno' };
      case 'isNull':
        return { expression: { ...node, of: visit(node.of, at).expression }, type: 'yesno' };
      case 'case': {
        const whens = node.branches.map(({ when }) => want(when, at, 'yesno', '“when”'));
        const results = [...node.branches.map(({ then }) => then), ...(node.otherwise ? [node.otherwise] : [])];
        const { expressions, type } = alike(results, at, '“case”');
        return {
          expression: {
            ...node,
            branches: whens.map((when, i) => ({ when, then: expressions[i]! })),
            otherwise: node.otherwise ? expressions[expressions.length - 1]! : null,
          },
          type,
        };
      }
      case 'call': {
        if (node.name === 'coalesce' || node.name === 'nullif' || node.name === 'greatest' || node.name === 'least') {
          const { expressions, type } = alike(node.args, at, node.name);
          return { expression: { ...node, args: expressions }, type };
        }
        return {
          expression: { ...node, args: node.args.map((arg) => want(arg, at, 'number', node.name)) },
          type: 'number',
        };
      }
      case 'extract':
        return { expression: { ...node, of: want(node.of, at, 'date', 'extract') }, type: 'number' };
      case 'cast': {
        const { expression, type } = visit(node.of, at);
        const target = node.type === 'text' || node.type === 'date' ? node.type : 'number';
        if (target === 'date' && type !== null && type !== 'text' && type !== 'date')
          refuse('wrong-type', `a ${word(type)} cannot become a date`, node.at, 'cast a text such as 2026-03-18');
        return { expression: { ...node, of: expression }, type: target };
      }
      case 'rate':
        return { expression: node, type: 'number' };
      case 'converted':
        return { expression: node, type: visit(node.of, at).type };
      case 'aggregate': {
        if (at === 'rows')
          refuse(
            'aggregate-of-rows',
            `${node.fn} adds up rows and cannot stand where one row is meant`,
            node.at,
            'aggregates belong into measures, and not into one another',
          );
        const filter = node.filter && want(node.filter, 'rows', 'yesno', '“filter”');
        if (node.of === null) return { expression: { ...node, filter }, type: 'number' };
        if (node.fn === 'count')
          return { expression: { ...node, of: visit(node.of, 'rows').expression, filter }, type: 'number' };
        const { expression: of, type } = visit(node.of, 'rows');
        const dates = type === 'date' && (node.fn === 'min' || node.fn === 'max');
        if (!dates && type !== null && type !== 'number')
          refuse(
            'wrong-type',
            `${node.fn} needs a number, and this is a ${word(type)}`,
            node.of.at,
            'use a number column, or count(…)',
          );
        return { expression: { ...node, of, filter }, type: dates ? 'date' : 'number' };
      }
    }
  }
  return visit(e, level);
}

function quoted(name: string): string {
  return /^[\p{L}_][\p{L}\p{N}_]*$/u.test(name) ? name : `"${name.replaceAll('"', '""')}"`;
}

function word(type: ValueType): string {
  return type === 'yesno' ? 'yes or no' : type;
}
