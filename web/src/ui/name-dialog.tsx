import { Dialog } from "radix-ui";
import { useState } from "react";
import { refusal } from "../api/client";
import { Button } from "./button";
import { DialogFrame } from "./dialog";

interface Props {
  title: string;
  note?: string;
  name: string;
  /** Words on the button. */
  action: string;
  onClose: () => void;
  onName: (name: string) => Promise<unknown>;
}

/** Asks for a name. */
export function NameDialog({ title, note, name, action, onClose, onName }: Props) {
  const [draft, setDraft] = useState(name);
  const [refused, setRefused] = useState<string | null>(null);
  return (
    <DialogFrame onClose={onClose} className="top-1/3 w-[min(420px,94vw)] p-5">
      <Dialog.Title className="pb-3 font-display text-lg font-semibold">{title}</Dialog.Title>
      {note && <p className="pb-3 text-sm text-soft">{note}</p>}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onName(draft).then(onClose, (e: unknown) => setRefused(refusal(e)));
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
            {action}
          </Button>
        </div>
      </form>
    </DialogFrame>
  );
}
