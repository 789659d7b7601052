import type { Highlight, HighlightRule } from '../report';

/** A stretch of numbers, [from, to). */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** Where the rules of a highlight on a number leave gaps, meet twice, or are never reached. */
export interface Coverage {
  /** What each number is painted by, in rising order, without gap: the rule that comes first, or none. */
  readonly painted: readonly (Stretch & { readonly rule: string | null })[];
  /** Painted by no rule, between or outside the rules. */
  readonly gaps: readonly Stretch[];
  /** Claimed by two rules; the later one has no say there. */
  readonly overlaps: readonly (Stretch & { readonly rules: readonly [string, string] })[];
  /** Rules that those before them leave nothing, or whose stretch is empty. */
  readonly unreached: readonly string[];
}

interface Claim extends Stretch {
  readonly id: string;
}

/** Coverage of all rules that are on and have a stretch. Rules on the best or last rows take no part: where they lie depends on the rows. */
export function coverageOf({ rules }: Pick<Highlight, 'rules'>): Coverage {
  const claims: Claim[] = rules.flatMap((rule) => {
    const stretch = rule.on ? stretchOf(rule) : null;
    return stretch ? [{ id: rule.id, ...stretch }] : [];
  });
  const edges = [...new Set([-Infinity, Infinity, ...claims.flatMap(({ from, to }) => [from, to])])].sort(
    (a, b) => a - b,
  );
  const painted: (Stretch & { rule: string | null })[] = [];
  const overlaps: (Stretch & { rules: [string, string] })[] = [];
  const reached = new Set<string>();
  for (let i = 1; i < edges.length; i++) {
    const [from, to] = [edges[i - 1]!, edges[i]!];
    const here = claims.filter((claim) => claim.from <= from && claim.to >= to && claim.from < claim.to);
    const first = here[0]?.id ?? null;
    if (first !== null) reached.add(first);
    const last = painted[painted.length - 1];
    if (last && last.rule === first) painted[painted.length - 1] = { ...last, to };
    else painted.push({ from, to, rule: first });
    for (const other of here.slice(1)) {
      const before = overlaps.find((o) => o.rules[0] === first && o.rules[1] === other.id && o.to === from);
      if (before) overlaps[overlaps.indexOf(before)] = { ...before, to };
      else overlaps.push({ from, to, rules: [first!, other.id] });
    }
  }
  return {
    painted,
    gaps: painted.filter(({ rule }) => rule === null).map(({ from, to }) => ({ from, to })),
    overlaps,
    unreached: claims.filter(({ id }) => !reached.has(id)).map(({ id }) => id),
  };
}

function stretchOf({ when }: HighlightRule): Stretch | null {
  if ('standing' in when || 'members' in when || 'highest' in when || 'lowest' in when) return null;
  return { from: when.from ?? -Infinity, to: when.to ?? Infinity };
}

/**
 * The same rules without overlaps, and without gaps between them: each keeps the widest stretch it paints, and reaches up to
 * the next. The outermost keep their ends. Rules that are never reached stay as they are.
 */
export function mended(highlight: Highlight): Highlight {
  const widest = new Map<string, Stretch>();
  for (const { rule, from, to } of coverageOf(highlight).painted) {
    if (rule === null) continue;
    const known = widest.get(rule);
    if (!known || to - from > known.to - known.from) widest.set(rule, { from, to });
  }
  const inOrder = [...widest].sort(([, a], [, b]) => a.from - b.from);
  const ends = new Map(inOrder.map(([id, { to }], i) => [id, inOrder[i + 1]?.[1].from ?? to]));
  return {
    ...highlight,
    rules: highlight.rules.map((rule) => {
      const stretch = widest.get(rule.id);
      if (!stretch) return rule;
      const [from, to] = [stretch.from, ends.get(rule.id)!];
      return { ...rule, when: { ...(from === -Infinity ? {} : { from }), ...(to === Infinity ? {} : { to }) } };
    }),
  };
}

/** The rules with an edge moved from one number to another: all that began or ended there still do. */
export function edgeMoved(highlight: Highlight, from: number, to: number): Highlight {
  return {
    ...highlight,
    rules: highlight.rules.map((rule) => {
      if (!stretchOf(rule)) return rule;
      const when = rule.when as { readonly from?: number; readonly to?: number };
      return {
        ...rule,
        when: { ...when, ...(when.from === from ? { from: to } : {}), ...(when.to === from ? { to } : {}) },
      };
    }),
  };
}
