import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { ApiProblem, api, refusal } from "../../api/client";
import type { Workshop } from "../../api/generated/Workshop";
import { useWorkshop, WORKSHOP } from "../../api/workshop";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { DialogFrame } from "../../ui/dialog";
import { Filaments } from "./filaments";
import { Houses } from "./houses";
import { PrintSettings } from "./print-settings";
import { Printers } from "./printers";
import { CELL, type Unread } from "./table";

/** The settings that all designs share; saved together, so that half of a change is never in force. */
export function WorkshopDialog({ onClose, onSaved }: { onClose: () => void; onSaved: () => void }) {
  const cache = useQueryClient();
  const data = useWorkshop();
  const [draft, setDraft] = useState<Workshop | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const [unread, setUnread] = useState<Record<string, string>>({});
  const w = draft ?? data?.workshop;
  const onUnread: Unread = (label, text) =>
    setUnread(({ [label]: _, ...others }) => (text === null ? others : { ...others, [label]: text }));
  const save = async () => {
    const [wrong] = Object.entries(unread);
    if (wrong) return setRefused(`${wrong[0]}: '${wrong[1]}' is not a number. Nothing is saved yet.`);
    if (!draft || !data) return onClose();
    try {
      cache.setQueryData(WORKSHOP, await api.setWorkshop(data.version, draft));
      onSaved();
      onClose();
    } catch (e) {
      setRefused(refusal(e));
      if (e instanceof ApiProblem && e.problem.code === "stale")
        void cache.invalidateQueries({ queryKey: WORKSHOP });
    }
  };
  return (
    <DialogFrame onClose={onClose} className="top-[6vh] flex max-h-[88vh] w-[min(860px,96vw)] flex-col">
      <header className="flex items-baseline gap-3 border-b border-line px-5 py-3">
        <Dialog.Title className="font-display text-xl font-semibold">Workshop</Dialog.Title>
        <span className="text-sm text-soft">printers and filaments that all designs share</span>
      </header>
      {w && (
        <div className="min-h-0 flex-1 overflow-y-auto px-5 py-3">
          <div className="flex gap-8 pb-4">
            <Choice
              label="Unit of new designs"
              value={w.unit}
              options={[
                { name: "mm", label: "Millimetres" },
                { name: "in", label: "Inches" },
              ]}
              onChoose={(unit) => setDraft({ ...w, unit: unit as Workshop["unit"] })}
            />
            <label className="flex items-center gap-2 text-sm">
              Currency
              <input
                className={`${CELL} max-w-16`}
                value={w.currency}
                onChange={(e) => setDraft({ ...w, currency: e.target.value })}
              />
            </label>
          </div>
          <Filaments w={w} set={setDraft} onUnread={onUnread} />
          <Printers w={w} set={setDraft} onUnread={onUnread} />
          <PrintSettings w={w} set={setDraft} onUnread={onUnread} />
          <Houses w={w} version={data?.version ?? 0} isChanged={draft !== null} set={setDraft} />
        </div>
      )}
      <footer className="flex items-center justify-end gap-2 border-t border-line px-5 py-3">
        {refused && (
          <p role="alert" className="mr-auto text-sm text-terracotta">
            {refused}
          </p>
        )}
        <Button onClick={onClose}>Cancel</Button>
        <Button look="solid" onClick={() => void save()}>
          Save
        </Button>
      </footer>
    </DialogFrame>
  );
}
