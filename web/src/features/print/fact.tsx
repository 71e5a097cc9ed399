import { fixed } from "../../ui/numbers";
import { rgb } from "../views/look";

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

/** A filament with how much of it is taken. */
export function Spool(p: {
  filament: string;
  colour: readonly [number, number, number];
  grams: number;
  note?: string;
}) {
  return (
    <div className="flex items-baseline gap-2 py-0.5 text-sm">
      <span
        className="size-3.5 flex-none self-center rounded-full border border-edge"
        style={{ background: rgb(p.colour) }}
      />
      <span className="flex-1 truncate">{p.filament}</span>
      {p.note && <span className="text-xs text-soft">{p.note}</span>}
      <b className="font-semibold">{fixed(p.grams, 1)} g</b>
    </div>
  );
}
