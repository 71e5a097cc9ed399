import { Tooltip } from "radix-ui";
import type { ReactNode } from "react";

/** A hint on what a control does, with its key. */
export function Tip({ words, keys, children }: { words: string; keys?: string; children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={6}
          className="z-50 max-w-64 rounded-tile bg-deep px-2.5 py-1.5 text-xs text-on-deep shadow-lg"
        >
          {words}
          {keys && (
            <kbd className="ml-2 rounded-xs border border-current px-1 font-sans opacity-80">{keys}</kbd>
          )}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
