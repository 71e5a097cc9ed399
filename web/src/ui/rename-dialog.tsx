import { Dialog } from "radix-ui";
import { useState } from "react";
import { ApiProblem } from "../api/client";
import { Button } from "./button";

interface Props {
  name: string;
  onClose: () => void;
  onRename: (name: string) => Promise<unknown>;
}

export function RenameDialog({ name, onClose, onRename }: Props) {
  const [draft, setDraft] = useState(name);
  const [refused, setRefused] = useState<string | null>(null);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/3 left-1/2 z-50 w-[min(420px,94vw)] -translate-x-1/2 rounded-tile bg-tile p-5 shadow-2xl"
        >
          <Dialog.Title className="pb-3 font-display text-lg font-semibold">Rename the design</Dialog.Title>
          <form
            onSubmit={(e) => {
              e.preventDefault();
              onRename(draft).then(onClose, (e: unknown) =>
                setRefused(e instanceof ApiProblem ? e.problem.detail : String(e)),
              );
            }}
          >
            <input
              aria-label="Name"
              value={draft}
              onChange={(e) => setDraft(e.target.value)}
              onFocus={(e) => e.target.select()}
              className="w-full rounded-tile border border-edge bg-field px-3 py-2"
            />
            {refused && (
              <p role="alert" className="pt-2 text-sm text-terracotta">
                {refused}
              </p>
            )}
            <div className="flex justify-end gap-2 pt-4">
              <Button onClick={onClose}>Cancel</Button>
              <Button look="solid" type="submit">
                Rename
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
