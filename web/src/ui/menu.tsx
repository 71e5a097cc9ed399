import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import { useAway } from "../state/away";

/** A menu's tile. */
export const MENU =
  "z-50 max-h-(--radix-dropdown-menu-content-available-height) min-w-44 overflow-y-auto rounded-tile border border-line bg-tile p-1 shadow-xl";

export function Menu({ trigger, children }: { trigger: ReactNode; children: ReactNode }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={5} className={MENU}>
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** One of its items. */
export const ITEM =
  "flex cursor-default items-baseline gap-3 rounded-xs px-2.5 py-1.5 text-sm outline-none pointer-coarse:min-h-9 pointer-coarse:items-center data-[highlighted]:bg-sunk data-[highlighted]:text-glaze data-[disabled]:opacity-45";

/** Something to pick; where it cannot be, `why` stands in the place of its note. */
export function Item(p: { words: string; note?: string; onPick: () => void; why?: string | false }) {
  const note = p.why || p.note;
  return (
    <DropdownMenu.Item className={ITEM} onSelect={p.onPick} disabled={Boolean(p.why)}>
      <span className="font-semibold">{p.words}</span>
      {note && <span className="ml-auto text-xs text-soft">{note}</span>}
    </DropdownMenu.Item>
  );
}

export function LinkItem(p: { words: string; note?: string; href: string; onTake?: () => void }) {
  const isAway = useAway((s) => s.isAway);
  if (isAway) return <Item words={p.words} why="the server is away" onPick={() => undefined} />;
  return (
    <DropdownMenu.Item className={ITEM} asChild>
      <a href={p.href} download onClick={p.onTake}>
        <span className="font-semibold">{p.words}</span>
        {p.note && <span className="ml-auto text-xs text-soft">{p.note}</span>}
      </a>
    </DropdownMenu.Item>
  );
}
