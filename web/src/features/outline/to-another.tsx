import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { useLocation } from "wouter";
import type { Bench } from "../../api/bench";
import { api, refusal } from "../../api/client";
import { designKey } from "../../api/design-query";
import { SHELF } from "../../api/shelf-query";
import { Button } from "../../ui/button";
import { DesignTiles } from "../../ui/design-tiles";
import { DialogFrame } from "../../ui/dialog";

/** Takes the outline to another design of the shelf, which keeps its recipe and its measures. */
export function ToAnother({ bench, onClose }: { bench: Bench; onClose: () => void }) {
  const own = bench.design.id;
  const cache = useQueryClient();
  const [, go] = useLocation();
  const [refused, setRefused] = useState<string | null>(null);
  const [going, setGoing] = useState<string | null>(null);
  const take = async (id: string, version: number) => {
    setGoing(id);
    try {
      cache.setQueryData(designKey(id), await api.takeOutline(id, version, own));
      onClose();
      go(`/design/${id}/tiers`);
    } catch (e) {
      setGoing(null);
      setRefused(refusal(e));
      void cache.invalidateQueries({ queryKey: SHELF });
    }
  };
  return (
    <DialogFrame onClose={onClose} className="top-[10vh] w-[min(680px,94vw)] p-5">
      <Dialog.Title className="font-display text-lg font-semibold">
        Take the outline to another design
      </Dialog.Title>
      <p className="pb-3 text-sm text-soft">
        It gets this picture and outline in the place of its own; its recipe and measures stay. Undo there
        gives it back.
      </p>
      {refused && (
        <p role="alert" className="pb-2 text-sm text-terracotta">
          {refused}
        </p>
      )}
      <DesignTiles
        label="Other designs"
        isFor={(d) => d.id !== own && !d.damage}
        noteOf={(d) => (going === d.id ? "taking it there…" : (d.recipe ?? ""))}
        onPick={(d) => going === null && void take(d.id, d.version)}
        none={(isTyped) =>
          isTyped ? "No other design of that name." : "There is no other design on the shelf yet."
        }
      />
      <div className="flex justify-end pt-3">
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </DialogFrame>
  );
}
