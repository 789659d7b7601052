/** The program's name over a boxwood edge. */
export function Wordmark({ large = false }: { large?: boolean }) {
  return (
    <span className={`inline-block font-bold tracking-tight ${large ? 'text-4xl' : 'text-lg'}`}>
      Bold Ruler
      <span aria-hidden className={`mt-1 block ruler-edge ${large ? 'h-3' : 'h-1.5'}`} />
    </span>
  );
}
