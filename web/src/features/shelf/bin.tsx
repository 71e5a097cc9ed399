import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { BEDS, bedApi } from "../../api/beds";
import { api } from "../../api/client";
import type { BinItem } from "../../api/generated/BinItem";
import { SHELF } from "../../api/shelf-query";
import { Button } from "../../ui/button";
import { DialogFrame } from "../../ui/dialog";
import { fixed } from "../../ui/numbers";
import { useShelfWork } from "./shelf-work";

const BIN = ["bin"];

const megabytes = (bytes: number) => `${fixed(bytes / 1e6, bytes < 1e6 ? 2 : 1)} MB`;

/** What was taken off the shelf: how much it is, the way back, and the end of it. `changes` asks anew when the shelf has changed. */
export function Bin({ changes }: { changes: string }) {
  const { data: bin } = useQuery({
    queryKey: [...BIN, changes],
    queryFn: api.bin,
    placeholderData: (old) => old,
  });
  const [isOpen, setOpen] = useState(false);
  const count = bin?.items.length ?? 0;
  if (!bin || count === 0) return null;
  return (
    <>
      <p className="flex items-center gap-2 pt-6 text-sm text-soft" data-testid="bin">
        In the bin: {count} {count === 1 ? "thing" : "things"}, {megabytes(bin.bytes)}
        <Button className="text-xs" onClick={() => setOpen(true)}>
          Look
        </Button>
      </p>
      {isOpen && <Contents items={bin.items} bytes={bin.bytes} onClose={() => setOpen(false)} />}
    </>
  );
}

function Contents(p: { items: readonly BinItem[]; bytes: number; onClose: () => void }) {
  const cache = useQueryClient();
  const { complain } = useShelfWork(SHELF);
  const [isSure, setSure] = useState(false);
  const refresh = () =>
    Promise.all([SHELF, BEDS, BIN].map((queryKey) => cache.invalidateQueries({ queryKey })));
  const back = (item: BinItem) =>
    void (item.kind === "bed" ? bedApi.restore(item.id) : api.restore(item.id)).then(refresh, complain);
  const empty = () =>
    void api.emptyBin().then(async () => {
      await refresh();
      p.onClose();
    }, complain);
  return (
    <DialogFrame onClose={p.onClose} className="top-[12vh] w-[min(560px,94vw)] p-5">
      <Dialog.Title className="pb-2 font-display text-lg font-semibold">The bin</Dialog.Title>
      <ul className="max-h-80 overflow-y-auto rounded-tile bg-sunk p-2" aria-label="In the bin">
        {p.items.map((item) => (
          <li key={item.id} className="flex items-center gap-3 px-1 py-1 text-sm">
            <span className="min-w-0 flex-1 truncate font-semibold">{item.name}</span>
            <span className="text-xs text-soft">{item.kind}</span>
            <Button className="text-xs" onClick={() => back(item)}>
              Put back
            </Button>
          </li>
        ))}
      </ul>
      <div className="flex items-center gap-2 pt-4">
        {isSure ? (
          <>
            <p className="flex-1 text-sm text-terracotta" role="alert">
              What is in the bin is gone for good then: {megabytes(p.bytes)}.
            </p>
            <Button onClick={() => setSure(false)}>Keep it</Button>
            <Button look="solid" onClick={empty}>
              Empty it for good
            </Button>
          </>
        ) : (
          <>
            <Button className="ml-auto" onClick={() => setSure(true)}>
              Empty the bin…
            </Button>
            <Button look="solid" onClick={p.onClose}>
              Done
            </Button>
          </>
        )}
      </div>
    </DialogFrame>
  );
}
