import type { Shape } from '../shape';

/** What must be so for a part of the look to be offered. */
export type Need = 'benchmark' | 'running period' | 'two fields' | 'a field' | 'exchange rates';

/** How the drawer offers a part of the look. */
export type DrawerOffer =
  | {
      readonly kind: 'choice';
      readonly label: string;
      /** The words for leaving it out, and for each value. */
      readonly none: string;
      readonly words: Readonly<Record<string, string>>;
      /** Two of these stand beside one another. */
      readonly half?: true;
      /** Its words `yes` and `no` are true and false. */
      readonly flags?: true;
      /** Values that are offered only where something is so. */
      readonly only?: Readonly<Record<string, Need>>;
    }
  | { readonly kind: 'flag'; readonly label: string }
  | {
      readonly kind: 'count';
      readonly label: string;
      readonly least: number;
      readonly most: number;
      readonly hint: string;
    }
  /** The interface has a field of its own for it. */
  | { readonly kind: 'own' };

/** A part of the look that some forms know: its key in the report's file, what may stand there, and how it is offered. */
export interface LookOption<K extends string = string, T = unknown> {
  readonly key: K;
  readonly shape: Shape;
  readonly offer: DrawerOffer;
  readonly needs?: Need;
  /** Stands for its type only. */
  readonly of?: T;
}

/** One word out of a few. */
export function choice<
  K extends string,
  const W extends Readonly<Record<string, string>>,
  const X extends string = never,
>(
  key: K,
  label: string,
  none: string,
  words: W,
  more: {
    readonly needs?: Need;
    readonly half?: true;
    readonly only?: Readonly<Partial<Record<keyof W, Need>>>;
    /** Values that say the same as leaving it out. */
    readonly further?: readonly X[];
  } = {},
): LookOption<K, (keyof W & string) | X> {
  const { needs, only, half, further = [] } = more;
  return {
    key,
    shape: { is: 'words', words: [...further, ...Object.keys(words)] },
    offer: {
      kind: 'choice',
      label,
      none,
      words,
      ...(half ? { half } : {}),
      ...(only ? { only: only as Readonly<Record<string, Need>> } : {}),
    },
    ...(needs ? { needs } : {}),
  };
}

/** True, or left out. */
export function toggle<K extends string>(key: K, label: string, needs?: Need): LookOption<K, true> {
  return { key, shape: { is: 'flag' }, offer: { kind: 'flag', label }, ...(needs ? { needs } : {}) };
}

/** True, false, or as it comes where it is left out. */
export function decided<K extends string>(
  key: K,
  label: string,
  none: string,
  words: { readonly yes: string; readonly no: string },
): LookOption<K, boolean> {
  return { key, shape: { is: 'flag', either: true }, offer: { kind: 'choice', label, none, words, flags: true } };
}

/** A whole number between two others. */
export function whole<K extends string>(
  key: K,
  label: string,
  { least, most, of }: { readonly least: number; readonly most: number; readonly of: string },
): LookOption<K, number> {
  return {
    key,
    shape: { is: 'count', least, most, of },
    offer: { kind: 'count', label, least, most, hint: of },
  };
}

/** Anything else: the interface brings its own field for it. */
export function own<T>() {
  return <K extends string>(key: K, shape: Shape, needs?: Need): LookOption<K, T> => ({
    key,
    shape,
    offer: { kind: 'own' },
    ...(needs ? { needs } : {}),
  });
}

/** What a form is, before anything is drawn. */
export interface FormDeclaration<F extends string = string, L extends readonly LookOption[] = readonly LookOption[]> {
  readonly form: F;
  /** What the form is for, in a few words. */
  readonly purpose: string;
  /** Several measures without fields and steps are rows of one figure. */
  readonly stacks?: true;
  /** Every view of the brief has a place in it; others draw the first one. */
  readonly everyView?: true;
  /** Members it can show at most; 400 when left out. */
  readonly most?: number;
  /** It draws ranks itself; others are given ranks as the values to draw. */
  readonly ranks?: true;
  /** Rows stand in the order of their ranks where no other is asked for. */
  readonly ordered?: true;
  /** Members are lines, which may stand out from one another. */
  readonly lines?: true;
  /** Lengths are compared, so its ruler begins at zero. */
  readonly fromZero?: true;
  /** The parts of the look that it knows, beside those of every form, as its drawer shows them. */
  readonly look: L;
}

/** Writes a declaration down with its own names. */
export const declared = <const F extends string, const L extends readonly LookOption[]>(
  declaration: FormDeclaration<F, L>,
): FormDeclaration<F, L> => declaration;

type ValueOf<O> = O extends LookOption<infer K, infer T> ? { readonly [P in K]?: T } : never;
type Both<U> = (U extends unknown ? (one: U) => void : never) extends (all: infer I) => void ? I : never;
/** The part of the look that some options make up. */
export type LookOf<O extends LookOption> = Both<ValueOf<O>>;
