import type { NameOf, Shape } from '../shape';
import { lookOptions } from './forms';
import { commonOptions } from './options';

/** Another name, the same, or null for one that is gone. */
export type Renaming = (name: string, of: NameOf) => string | null;

/**
 * A look with every name in it put through a renaming, also in what forms say that do not draw it now. What rests on a name that is gone
 * goes with it: an item of a list, a part that may be left out, else the whole.
 */
export function withNames<L extends object>(look: L, renaming: Renaming): L {
  const changed = { ...look } as Record<string, unknown>;
  let isSame = true;
  for (const { key, shape } of [...commonOptions, ...lookOptions()]) {
    const value = (look as Readonly<Record<string, unknown>>)[key];
    if (value === undefined) continue;
    const next = named(value, shape, renaming);
    if (next === value) continue;
    isSame = false;
    if (next === undefined) delete changed[key];
    else changed[key] = next;
  }
  return isSame ? look : (changed as L);
}

/** Every name in a look, with what it names. */
export function namesIn(look: object): { readonly name: string; readonly of: NameOf }[] {
  const found: { name: string; of: NameOf }[] = [];
  withNames(look, (name, of) => {
    found.push({ name, of });
    return name;
  });
  return found;
}

/** A value with its names changed: the very same where none is, undefined where it is gone. */
function named(value: unknown, shape: Shape, renaming: Renaming): unknown {
  switch (shape.is) {
    case 'text':
    case 'name':
      return shape.names !== undefined && typeof value === 'string'
        ? (renaming(value, shape.names) ?? undefined)
        : value;
    case 'list': {
      if (!Array.isArray(value)) return value;
      const next = value.map((item: unknown) => named(item, shape.of, renaming));
      if (next.every((item, i) => item === value[i])) return value;
      const left = next.filter((item) => item !== undefined);
      return left.length > 0 ? left : undefined;
    }
    case 'object': {
      if (value === null || typeof value !== 'object') return value;
      const parts = value as Readonly<Record<string, unknown>>;
      const next: Record<string, unknown> = { ...parts };
      let isSame = true;
      for (const [key, of] of Object.entries(shape.of)) {
        if (parts[key] === undefined) continue;
        const part = named(parts[key], of, renaming);
        if (part === parts[key]) continue;
        isSame = false;
        if (part !== undefined) next[key] = part;
        else if (of.required || of.is === 'name' || of.is === 'map') return undefined;
        else delete next[key];
      }
      if (isSame) return value;
      return Object.keys(next).length > 0 ? next : undefined;
    }
    case 'map': {
      const { names } = shape;
      if (names === undefined || value === null || typeof value !== 'object') return value;
      const parts = Object.entries(value as Readonly<Record<string, unknown>>);
      const next = parts.map(([name, part]) => [renaming(name, names), part] as const);
      if (next.every(([name], i) => name === parts[i]![0])) return value;
      // Without one of its names it says something else.
      return next.some(([name]) => name === null) ? undefined : Object.fromEntries(next);
    }
    case 'either':
      return named(value, typeof value === 'string' ? shape.text : shape.other, renaming);
    case 'by': {
      const word = (value as Readonly<Record<string, unknown>> | null)?.[shape.key];
      return named(value, (typeof word === 'string' && shape.cases[word]) || shape.other, renaming);
    }
    default:
      return value;
  }
}
