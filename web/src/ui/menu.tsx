import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import { useAway } from "../state/away";

export function Menu({ trigger, children }: { trigger: ReactNode; children: ReactNode }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={5}
          className="z-50 max-h-(--radix-dropdown-menu-content-available-height) min-w-44 overflow-y-auto rounded-tile border border-line bg-tile p-1 shadow-xl"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const ITEM =
  "flex cursor-default items-baseline gap-3 rounded-xs px-2.5 py-1.5 text-sm outline-none pointer-coarse:min-h-9 pointer-coarse:items-center data-[highlighted]:bg-sunk data-[highlighted]:text-glaze data-[disabled]:opacity-45";

export function Item(p: { words: string; note?: string; onPick: () => void; disabled?: boolean }) {
  return (
    <DropdownMenu.Item className={ITEM} onSelect={p.onPick} disabled={p.disabled ?? false}>
      <span className="font-semibold">{p.words}</span>
      {p.note && <span className="ml-auto text-xs text-soft">{p.note}</span>}
    </DropdownMenu.Item>
  );
}

export function LinkItem(p: { words: string; note?: string; href: string; onTake?: () => void }) {
  const isAway = useAway((s) => s.isAway);
  if (isAway) return <Item words={p.words} note="the server is away" onPick={() => undefined} disabled />;
  return (
    <DropdownMenu.Item className={ITEM} asChild>
      <a href={p.href} download onClick={p.onTake}>
        <span className="font-semibold">{p.words}</span>
        {p.note && <span className="ml-auto text-xs text-soft">{p.note}</span>}
      </a>
    </DropdownMenu.Item>
  );
}
