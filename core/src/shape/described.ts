import * as yup from 'yup';
import { flag, list, name, number, object, oneOf, text } from './shape';

/** What a text may name: so it is followed where that gets another name, or goes. */
export type NameOf = 'measure' | 'benchmark' | 'column' | 'field' | 'expression';

/** What may stand somewhere in a report's file, as plain data: whoever only needs to know it does not load what checks it. */
export type Shape = { readonly required?: true } & (
  | { readonly is: 'words'; readonly words: readonly string[] }
  /** True; with `either` also false. */
  | { readonly is: 'flag'; readonly either?: true }
  | { readonly is: 'number' }
  | { readonly is: 'percentile' }
  /** A whole number of something. */
  | { readonly is: 'count'; readonly least: number; readonly most: number; readonly of: string }
  | { readonly is: 'text'; readonly most: number; readonly defined?: true; readonly names?: NameOf }
  | { readonly is: 'name'; readonly names?: NameOf }
  | {
      readonly is: 'list';
      readonly of: Shape;
      readonly most: number;
      readonly least?: number;
      /** What is said of a list that is too short or too long. */
      readonly saying?: string;
    }
  | { readonly is: 'object'; readonly of: Readonly<Record<string, Shape>>; readonly nullable?: true }
  /** Any keys, each with a text or blank; the keys may be names that are followed. */
  | { readonly is: 'map'; readonly most: number; readonly names?: NameOf }
  /** A text or something else. */
  | { readonly is: 'either'; readonly text: Shape; readonly other: Shape }
  /** One of several shapes, told apart by the word under a key. */
  | { readonly is: 'by'; readonly key: string; readonly cases: Readonly<Record<string, Shape>>; readonly other: Shape }
);

/** Names may be any text, also one that objects know. */
function isMap(value: unknown, most: number): boolean {
  if (value === null || typeof value !== 'object' || Array.isArray(value)) return false;
  return Object.values(value).every((one) => one === null || (typeof one === 'string' && one.length <= most));
}

/** The check of a shape. */
export function checkOf(shape: Shape): yup.ISchema<unknown> {
  const { required } = shape;
  switch (shape.is) {
    case 'words': {
      const words = oneOf(shape.words);
      return required ? words.required('${path} is missing') : words;
    }
    case 'flag':
      return shape.either ? yup.boolean() : flag(true);
    case 'number':
      return required ? number().required() : number().optional();
    case 'percentile': {
      const saying = '${path} must be a percentile, 0–100';
      return number().required().min(0, saying).max(100, saying);
    }
    case 'count': {
      const saying = `\${path} must be ${shape.least}–${shape.most} ${shape.of}`;
      return number().integer().min(shape.least, saying).max(shape.most, saying);
    }
    case 'text':
      if (required) return text(shape.most);
      return shape.defined ? yup.string().defined().max(shape.most) : yup.string().max(shape.most);
    case 'name':
      return name();
    case 'list': {
      const of = checkOf(shape.of);
      if (required) return list(of, shape.most).min(shape.least ?? 0, shape.saying);
      return yup.array().of(of).max(shape.most, shape.saying);
    }
    case 'object': {
      const inner = Object.fromEntries(Object.entries(shape.of).map(([key, one]) => [key, checkOf(one)]));
      const made = object(inner as yup.ObjectShape);
      return (shape.nullable ? made.nullable() : made).default(undefined);
    }
    case 'map':
      return yup
        .mixed<Readonly<Record<string, string | null>>>()
        .test(
          'map',
          `\${path} must be texts by name, each of at most ${shape.most} letters`,
          (value) => value === undefined || isMap(value, shape.most),
        );
    case 'either': {
      const [words, other] = [checkOf(shape.text), checkOf(shape.other)];
      return yup.lazy((value: unknown) => (typeof value === 'string' ? words : other) as yup.Schema);
    }
    case 'by': {
      const cases = new Map(Object.entries(shape.cases).map(([word, one]) => [word, checkOf(one)]));
      const other = checkOf(shape.other);
      return yup.lazy((value: unknown) => {
        const word = (value as Readonly<Record<string, unknown>> | null | undefined)?.[shape.key];
        return ((typeof word === 'string' && cases.get(word)) || other) as yup.Schema;
      });
    }
  }
}
