/** A name that every file system takes. */
export function fileName(name: string): string {
  return (
    name
      .replace(/[^\p{L}\p{N} ._-]+/gu, '')
      .replace(/\s+/g, '-')
      .slice(0, 80) || 'report'
  );
}
