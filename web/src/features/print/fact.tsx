/** A name with its value. */
export function Fact({ words, value, note }: { words: string; value: string; note?: string }) {
  return (
    <div className="flex items-baseline gap-2 py-0.5 text-sm">
      <span className="flex-1">{words}</span>
      {note && <span className="text-xs text-soft">{note}</span>}
      <b className="max-w-44 truncate text-right font-semibold">{value}</b>
    </div>
  );
}
