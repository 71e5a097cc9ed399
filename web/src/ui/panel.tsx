import clsx from "clsx";
import type { ReactNode } from "react";

/** What fills the rest of a tile, laid out for itself: what moves in it lays out none of the other tiles. Two boxes, as a browser lays out
 * a child of a flex box or a grid with its parent, whatever it contains. */
function Alone({ className, children }: { className?: string; children: ReactNode }) {
  return (
    <div className="relative min-h-0 flex-1">
      <div className={clsx("absolute inset-0 contain-strict", className)}>{children}</div>
    </div>
  );
}

/** A tile of the bench with a heading and tools of its own. */
export function Panel(p: {
  title: string;
  note?: ReactNode;
  tools?: ReactNode;
  children: ReactNode;
  className?: string;
  isOld?: boolean;
}) {
  return (
    <section
      aria-label={p.title}
      className={clsx(
        "relative flex min-h-0 min-w-0 flex-col overflow-hidden rounded-tile bg-tile",
        p.className,
      )}
    >
      <header className="flex min-h-9 flex-none items-center gap-x-2 pr-1.5 pl-3 narrow:flex-wrap">
        <h2 className="font-display text-sm font-semibold">{p.title}</h2>
        <span className="truncate text-xs text-soft">{p.note}</span>
        {p.isOld && (
          <span className="rounded-xs bg-blush px-1.5 py-0.5 text-xs font-semibold text-terracotta">old</span>
        )}
        <span className="ml-auto flex items-center">{p.tools}</span>
      </header>
      <Alone>{p.children}</Alone>
    </section>
  );
}

/** The card at the right: groups of controls under thin lines. */
export function Card({ title, children, foot }: { title: string; children: ReactNode; foot?: ReactNode }) {
  return (
    <section aria-label={title} className="flex min-h-0 flex-1 flex-col rounded-tile bg-tile">
      <Alone className="overflow-y-auto px-4 pt-3 pb-2">{children}</Alone>
      {foot && <div className="flex-none border-t border-line px-4 py-3">{foot}</div>}
    </section>
  );
}

export function Group(p: { title: string; note?: ReactNode; colour?: string; children: ReactNode }) {
  return (
    <fieldset className="min-w-0 border-t border-line py-2.5 first:border-t-0 first:pt-0">
      <legend className="sr-only">{p.title}</legend>
      <div className="flex items-center gap-2 pb-1" aria-hidden="true">
        {p.colour && <span className="size-3 rounded-[3px]" style={{ background: p.colour }} />}
        <h3 className="font-display text-[15px] font-semibold">{p.title}</h3>
        <span className="ml-auto text-xs font-semibold text-soft">{p.note}</span>
      </div>
      {p.children}
    </fieldset>
  );
}
