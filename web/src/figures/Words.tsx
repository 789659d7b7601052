/** What a place says, beside the pointer. */
export function Words({ text, x, y }: { text: string; x: number; y: number }) {
  const [name, ...parts] = text.split(/: |; /);
  return (
    <div
      role="tooltip"
      className="pointer-events-none absolute z-10 w-max max-w-[270px] border border-l-4 border-ink/25 border-l-boxwood bg-paper px-3 py-2 font-figure text-[13px] leading-snug shadow-popover"
      style={{ left: `min(${x + 14}px, calc(100% - 276px))`, top: y + 16 }}
    >
      <strong className="block font-semibold">{name}</strong>
      {parts.map((part) => (
        <span key={part} className="block">
          {part}
        </span>
      ))}
    </div>
  );
}
