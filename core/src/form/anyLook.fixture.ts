import fc from 'fast-check';
import type { Shape } from '../shape';
import { lookOptions } from './forms';
import { commonOptions } from './options';

/** What names in a look are taken from. */
export const NAMED = {
  measure: ['net', 'pieces'],
  benchmark: ['goal', 'average', 'last year'],
  column: ['net', 'goal', 'share of net'],
  field: ['shop', 'line'],
  expression: ['sum(net)', '0.9 * sum(goal)'],
} as const;

/** Values that a shape lets stand. */
export function anyOf(shape: Shape): fc.Arbitrary<unknown> {
  switch (shape.is) {
    case 'words':
      return fc.constantFrom(...shape.words);
    case 'flag':
      return shape.either ? fc.boolean() : fc.constant(true);
    case 'number':
      return fc.integer({ min: -50, max: 500 });
    case 'percentile':
      return fc.integer({ min: 0, max: 100 });
    case 'count':
      return fc.integer({ min: shape.least, max: shape.most });
    case 'text':
    case 'name':
      return fc.constantFrom(...(shape.names ? NAMED[shape.names] : ['Alder', 'Birch', 'constructor']));
    case 'list':
      return fc.array(anyOf(shape.of), { minLength: shape.least ?? 0, maxLength: Math.min(shape.most, 4) });
    case 'object': {
      const parts = Object.entries(shape.of);
      const required = parts.flatMap(([key, of]) => (of.required || of.is === 'name' ? [key] : []));
      return fc.record(Object.fromEntries(parts.map(([key, of]) => [key, anyOf(of)])), {
        requiredKeys: [...required, ...parts.flatMap(([key, of]) => (of.is === 'text' && of.defined ? [key] : []))],
      });
    }
    case 'map':
      return fc.dictionary(fc.constantFrom('shop', 'line'), fc.constantFrom('Alder', null), { noNullPrototype: true });
    case 'either':
      return fc.oneof(anyOf(shape.text), anyOf(shape.other));
    case 'by':
      return fc.oneof(
        ...Object.entries(shape.cases).map(([word, of]) =>
          anyOf(of).map((value) => ({ ...(value as object), [shape.key]: word })),
        ),
        anyOf(shape.other).map((value) => ({ ...(value as object), [shape.key]: 'fixed' })),
      );
  }
}

/** Something that a shape does not let stand. */
export function notOf(shape: Shape): unknown {
  switch (shape.is) {
    case 'words':
      return 'no such word';
    case 'flag':
      return shape.either ? 'yes' : false;
    case 'number':
    case 'percentile':
    case 'count':
      return 'twelve';
    case 'text':
      return 'x'.repeat(shape.most + 1);
    case 'name':
      return ' with a space before it';
    case 'map':
      return { shop: 1 };
    case 'list':
      return Array.from({ length: shape.most + 1 }, () => 'x');
    case 'object':
      return { 'no such part': 1 };
    case 'either':
      return notOf(shape.text);
    case 'by':
      return { [shape.key]: 'no such word', edges: [1] };
  }
}

/** Any look, with parts of every form in it. */
export const anyLook: fc.Arbitrary<Readonly<Record<string, unknown>>> = fc.record(
  Object.fromEntries([...commonOptions, ...lookOptions()].map(({ key, shape }) => [key, anyOf(shape)])),
  { requiredKeys: [] },
);
