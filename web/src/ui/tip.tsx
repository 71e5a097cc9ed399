import { Tooltip } from "radix-ui";
import { type ReactNode, useState } from "react";
import { useLongPress } from "./use-long-press";

/** So long a hint stays that a finger has asked for, milliseconds. */
const STAYS_MS = 2500;

/** A hint on what a control does, with its key; none without words. A finger that rests on the control asks for it. */
export function Tip({ words, keys, children }: { words: string | null; keys?: string; children: ReactNode }) {
  const [isOpen, setOpen] = useState(false);
  const [isHeld, setHeld] = useState(false);
  const press = useLongPress(() => {
    setHeld(true);
    setTimeout(() => setHeld(false), STAYS_MS);
  });
  return (
    <Tooltip.Root open={words !== null && (isOpen || isHeld)} onOpenChange={setOpen}>
      <Tooltip.Trigger
        asChild
        {...press}
        // What asked does not press.
        onClickCapture={(e) => {
          if (!isHeld) return;
          e.preventDefault();
          e.stopPropagation();
        }}
      >
        {children}
      </Tooltip.Trigger>
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
