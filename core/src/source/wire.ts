import { base64 } from '../zip';

/** Typed arrays that answers are made of, by name. */
const ARRAYS = {
  Float64Array,
  Int32Array,
  Uint32Array,
  Uint16Array,
  Uint8Array,
} as const;
type ArrayName = keyof typeof ARRAYS;

/** Under this key stands what JSON has no word for. */
const KIND = '~';

/**
 * An answer of a source as JSON: typed arrays as their bytes in base64 (little endian, as everywhere that runs this), maps as lists of
 * pairs. Numbers outside of arrays are finite.
 */
export function written(value: unknown): string {
  return JSON.stringify(value, (_, part: unknown) => {
    if (part instanceof Map) return { [KIND]: 'Map', of: [...(part as Map<unknown, unknown>)] };
    if (ArrayBuffer.isView(part)) {
      const { constructor, buffer, byteOffset, byteLength } = part as Uint8Array;
      return { [KIND]: constructor.name, of: base64(new Uint8Array(buffer, byteOffset, byteLength)) };
    }
    return part;
  });
}

/** The answer again. */
export function readWritten(text: string): unknown {
  return JSON.parse(text, (_, part: unknown) => {
    if (typeof part !== 'object' || part === null || !Object.hasOwn(part, KIND)) return part;
    const { [KIND]: kind, of } = part as { readonly [KIND]: string; readonly of: unknown };
    if (kind === 'Map') return new Map(of as [unknown, unknown][]);
    if (!Object.hasOwn(ARRAYS, kind)) return part;
    const bytes = Uint8Array.from(atob(of as string), (letter) => letter.charCodeAt(0));
    return new ARRAYS[kind as ArrayName](bytes.buffer);
  });
}
