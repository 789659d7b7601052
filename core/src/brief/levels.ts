import type { Brief, Condition } from './brief';

/** Fields in order, each finer than the one before: territory, rep, account. */
export type Hierarchies = readonly (readonly string[])[];

/** A member that was gone into, and the field it belongs to. */
export interface LevelMember {
  readonly field: string;
  /** Null for the blank one. */
  readonly member: string | null;
}

/** What is there to be gone into. */
export interface Below {
  /** Whether rows can be broken down by a field. */
  has(field: string): boolean;
  /** Whether a benchmark is known for each member of a field. */
  holds(benchmark: string, field: string): boolean;
}

const alike = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
const placeIn = (levels: readonly string[], field: string) => levels.findIndex((one) => alike(one, field));

/**
 * The field one level below another in the first hierarchy that has one; null where there is none.
 * @param has whether there is such a field; levels that are not there are passed over
 * @param taken fields that are no way down, as they are shown already
 */
export function levelBelow(
  hierarchies: Hierarchies,
  field: string,
  has: (field: string) => boolean,
  taken: readonly string[] = [],
): string | null {
  for (const levels of hierarchies) {
    const at = placeIn(levels, field);
    if (at < 0) continue;
    const below = levels.slice(at + 1).find((one) => has(one) && !taken.some((other) => alike(other, one)));
    if (below !== undefined) return below;
  }
  return null;
}

/** Which of a brief's fields can be gone into, and the one below it: the finest that has one. Null where none has. */
export function wayDown(
  brief: Brief,
  hierarchies: Hierarchies,
  { has }: Pick<Below, 'has'>,
): { readonly field: string; readonly below: string } | null {
  for (const field of [...brief.by].reverse()) {
    const below = levelBelow(hierarchies, field, has, brief.by);
    if (below !== null) return { field, below };
  }
  return null;
}

/**
 * The same question one level down, within a row; null where there is no level below. A benchmark that is not known there is left away.
 * @param key the members of the row, by the brief's fields
 */
export function wentInto(
  brief: Brief,
  hierarchies: Hierarchies,
  key: Readonly<Record<string, string | null>>,
  ways: Below,
): Brief | null {
  const way = wayDown(brief, hierarchies, ways);
  if (!way || brief.by.some((field) => !Object.hasOwn(key, field))) return null;
  const within = brief.by.map((field): Condition => ({ kind: 'is', field, members: [key[field]!] }));
  const holds = brief.against === null || ways.holds(brief.against, way.below);
  return { ...(holds ? brief : heldAgainstNothing(brief)), by: [way.below], only: [...brief.only, ...within] };
}

/** The same question held against nothing: what asked for a gap asks for the value. */
function heldAgainstNothing(brief: Brief): Brief {
  const { sort, keep } = brief;
  const isOfGaps = sort !== null && !['value', 'name', 'given order'].includes(sort.key);
  const keepsGaps = keep !== null && !['highest', 'lowest', 'largest either sign'].includes(keep.order);
  return {
    ...brief,
    against: null,
    form: null,
    sort: isOfGaps ? { key: 'value', direction: 'down' } : sort,
    keep: keepsGaps ? { ...keep, order: 'highest' } : keep,
    lit: null,
  };
}

/** A condition that says one member of a field. */
const memberIn = (brief: Brief, field: string): LevelMember | null => {
  const said = brief.only.find((one) => one.kind === 'is' && alike(one.field, field) && one.members.length === 1);
  return said && 'members' in said ? { field: said.field, member: said.members[0]! } : null;
};

/** The members a brief lies within by its hierarchies, the widest first: what was gone into, and where one can go back to. */
export function pathOf({ by, ...brief }: Brief, hierarchies: Hierarchies): LevelMember[] {
  const [field] = by;
  if (by.length !== 1 || field === undefined) return [];
  const paths = hierarchies.map((levels) => {
    const path: LevelMember[] = [];
    for (let at = placeIn(levels, field) - 1; at >= 0; at--) {
      const within = memberIn({ by, ...brief }, levels[at]!);
      // A level that was passed over is no end of the way.
      if (within) path.unshift(within);
    }
    return path;
  });
  return paths.reduce((longest, path) => (path.length > longest.length ? path : longest), []);
}

/** The same question back at a step of its path: all members of that field again, within those before it. */
export function wentBack(brief: Brief, hierarchies: Hierarchies, step: number): Brief {
  const path = pathOf(brief, hierarchies);
  const gone = path.slice(step).map(({ field }) => field);
  const isGone = (one: Condition) =>
    one.kind === 'is' && one.members.length === 1 && gone.some((field) => alike(field, one.field));
  return { ...brief, by: [path[step]!.field], only: brief.only.filter((one) => !isGone(one)) };
}

/** A selection's rest, member by member: the same question of all that were not kept; null where there is no such rest. */
export function restOpened(brief: Brief, kept: readonly (string | null)[]): Brief | null {
  const [field] = brief.by;
  if (!brief.keep?.rest || brief.by.length !== 1 || field === undefined || kept.length === 0) return null;
  return { ...brief, keep: null, only: [...brief.only, { kind: 'is not', field, members: kept }] };
}

/** A member that was pressed in a figure of the page. */
export interface Picked {
  /** The figure it was pressed in. */
  readonly figure: string;
  readonly field: string;
  readonly member: string | null;
  /** Members of wider fields that the figure was gone into before, the widest first. */
  readonly within?: readonly LevelMember[];
}

/**
 * What is picked once a member is pressed: pressed again it is let go; in a figure that was gone into, it is a step further.
 * @param pressed in the figure as it is shown
 */
export function pickedNext(before: Picked | null, pressed: Picked): Picked | null {
  if (before?.figure !== pressed.figure) return pressed;
  const { within = [] } = before;
  if (before.field !== pressed.field)
    return { ...pressed, within: [...within, { field: before.field, member: before.member }] };
  const above = within.length > 0 ? { within } : {};
  if (before.member !== pressed.member) return { ...pressed, ...above };
  return pickedBack(before, within.length);
}

/** What is picked once somebody goes back before a step of the way; with 0 nothing is. */
export function pickedBack({ figure, field, member, within = [] }: Picked, step: number): Picked | null {
  const path = [...within, { field, member }].slice(0, step);
  const last = path.pop();
  return last ? { figure, ...last, ...(path.length > 0 ? { within: path } : {}) } : null;
}
