import type { DesignView } from "./generated/DesignView";
import type { Edit } from "./generated/Edit";

// Edits that were made up while others were being saved.

/** An entry's new state on top of what was saved since it was made up. */
export function rebased(edit: Edit, base: DesignView | undefined, now: DesignView): Edit {
  if (!base || base === now) return edit;
  // These are sent all together: one that another edit added meanwhile must stay.
  if (edit.kind === "set-guides")
    return { ...edit, guides: kept(edit.guides, base.document.guides, now.document.guides) };
  if (edit.kind === "set-pins")
    return { ...edit, pins: kept(edit.pins, base.document.pins, now.document.pins) };
  if (edit.kind === "set-bars" && edit.bars)
    return { ...edit, bars: kept(edit.bars, base.result.bars, now.result.bars) };
  if (edit.kind !== "set-change") return edit;
  const of = (d: DesignView) => d.document.changes.find((c) => c.id === edit.id)?.change;
  return { ...edit, change: merged(of(base), edit.change, of(now)) as typeof edit.change };
}

/** A list as somebody made it from `seen`, with what was added to that and taken from it meanwhile. */
function kept<T>(mine: readonly T[], seen: readonly T[], current: readonly T[]): T[] {
  const [a = [], b = [], c = []] = [mine, seen, current].map((all) => all.map((one) => JSON.stringify(one)));
  // As many as before: those that differ were changed where they stand. What this hand left alone is theirs, what it took away is
  // gone, whatever it looks like now.
  if (b.length === c.length)
    return a.map((one) => (b.includes(one) ? (c[b.indexOf(one)] ?? one) : one)).map((one) => JSON.parse(one));
  const stay = c.filter((one) => a.includes(one) || !b.includes(one));
  const added = a.filter((one) => !stay.includes(one) && !b.includes(one));
  return [...stay, ...added].map((one) => JSON.parse(one));
}

function merged(base: unknown, mine: unknown, theirs: unknown): unknown {
  if (JSON.stringify(mine) === JSON.stringify(base)) return theirs ?? mine;
  const isPlain = (v: unknown): v is Record<string, unknown> =>
    typeof v === "object" && v !== null && !Array.isArray(v);
  if (!isPlain(base) || !isPlain(mine) || !isPlain(theirs)) return mine;
  return Object.fromEntries(Object.keys(mine).map((k) => [k, merged(base[k], mine[k], theirs[k])]));
}
