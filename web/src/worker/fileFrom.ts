import type { SourceFile } from '@bold-ruler/core/reading';

/** A file of the browser as core reads it. */
export function fileFrom(file: Blob, name: string): SourceFile {
  return {
    name,
    size: file.size,
    async *stream() {
      const reader = file.stream().getReader();
      for (;;) {
        const { done, value } = await reader.read();
        if (done) return;
        yield value;
      }
    },
    slice: async (from, to) => new Uint8Array(await file.slice(from, to).arrayBuffer()),
  };
}
