import fc from 'fast-check';
import { expect, test } from 'vitest';
import { packOf, unpacked } from './pack';

test('law: files come out of a pack as they went in, whatever they are called and hold, in their order', () =>
  fc.assert(
    fc.asyncProperty(
      fc.uniqueArray(fc.tuple(fc.string({ unit: 'grapheme', minLength: 1 }), fc.uint8Array({ maxLength: 40 })), {
        selector: ([name]) => name,
        maxLength: 6,
      }),
      async (files) => {
        const named = files.map(([name, bytes]) => [name, new Blob([bytes as Uint8Array<ArrayBuffer>])] as const);
        const found = await unpacked(packOf(named, 'all'));
        expect([...found.keys()]).toEqual(named.map(([name]) => name));
        for (const [name, content] of named) {
          const out = found.get(name)!;
          expect(out.name).toBe(name);
          expect(new Uint8Array(await out.arrayBuffer())).toEqual(new Uint8Array(await content.arrayBuffer()));
        }
      },
    ),
  ));
