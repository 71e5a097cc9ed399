import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useCallback, useRef, useState } from "react";
import { BEDS } from "../../api/beds";
import { api } from "../../api/client";
import { complain } from "../../api/complain";
import type { BroughtView } from "../../api/generated/BroughtView";
import { SHELF } from "../../api/shelf-query";
import { WORKSHOP } from "../../api/workshop";
import { Button } from "../../ui/button";
import { DialogFrame } from "../../ui/dialog";
import { FileInput } from "../../ui/file-input";
import { Item, LinkItem, Menu } from "../../ui/menu";

/** Brings a shelf that was taken home, and says what came of it. */
export function useBring() {
  const cache = useQueryClient();
  const [isBringing, setBringing] = useState(false);
  const [came, setCame] = useState<BroughtView | null>(null);
  const bring = useCallback(
    async (file: File) => {
      setBringing(true);
      try {
        setCame(await api.bringShelf(file));
        await Promise.all([SHELF, BEDS, WORKSHOP].map((queryKey) => cache.invalidateQueries({ queryKey })));
      } catch (e) {
        complain(e);
      }
      setBringing(false);
    },
    [cache],
  );
  return { bring, isBringing, came, onRead: () => setCame(null) };
}

/** What can be done with all of the shelf at once. */
export function WholeShelf({ isEmpty, work }: { isEmpty: boolean; work: ReturnType<typeof useBring> }) {
  const input = useRef<HTMLInputElement>(null);
  const { isBringing, came, onRead } = work;
  return (
    <>
      <Menu
        trigger={
          <Button why={isBringing && "A shelf is being brought"}>
            {isBringing ? "Bringing…" : "The whole shelf"}
          </Button>
        }
      >
        {!isEmpty && (
          <LinkItem words="Take it home" note="ZIP: 3MF files and pictures" href="/api/shelf/home" />
        )}
        <Item words="Bring a shelf…" note="beside what is here" onPick={() => input.current?.click()} />
      </Menu>
      <FileInput
        ref={input}
        label="A shelf to bring"
        accept=".zip,application/zip"
        tabIndex={-1}
        onFile={(file) => void work.bring(file)}
      />
      {came && <Came came={came} onClose={onRead} />}
    </>
  );
}

const counted = (n: number, what: string) => `${n} ${what}${n === 1 ? "" : "s"}`;

function Came({ came, onClose }: { came: BroughtView; onClose: () => void }) {
  return (
    <DialogFrame onClose={onClose} className="top-[12vh] w-[min(560px,94vw)] p-5">
      <Dialog.Title className="pb-2 font-display text-lg font-semibold">
        {counted(came.designs, "design")} and {counted(came.beds, "bed")} brought
      </Dialog.Title>
      {came.were_there > 0 && (
        <p className="pb-2 text-sm text-soft">
          {came.were_there} {came.were_there === 1 ? "was" : "were"} here already, just as they are.
        </p>
      )}
      {came.refused.length > 0 && (
        <>
          <p className="pb-2 text-sm text-terracotta" role="alert">
            {came.refused.length} could not be taken:
          </p>
          <ul className="max-h-72 overflow-y-auto rounded-tile bg-sunk p-3 text-sm">
            {came.refused.map((r) => (
              <li key={`${r.what} ${r.why}`} className="pb-1">
                <b className="font-semibold">{r.what}</b>: {r.why}
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="flex justify-end pt-3">
        <Button look="solid" onClick={onClose}>
          Done
        </Button>
      </div>
    </DialogFrame>
  );
}
