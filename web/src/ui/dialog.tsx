import clsx from "clsx";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

/** A tile over the darkened page; where it stands and how large it is, is said by what is in it. */
export function DialogFrame(p: { onClose: () => void; className: string; children: ReactNode }) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && p.onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className={clsx(
            "fixed left-1/2 z-50 -translate-x-1/2 rounded-tile bg-tile shadow-2xl",
            p.className,
          )}
        >
          {p.children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
