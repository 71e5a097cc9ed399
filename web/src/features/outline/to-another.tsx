import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { useLocation } from "wouter";
import type { Bench } from "../../api/bench";
import { api, refusal, thumbnailUrl } from "../../api/client";
import { designKey } from "../../api/design-query";
import { Button } from "../../ui/button";
import { DialogFrame } from "../../ui/dialog";

/** Takes the outline to another design of the shelf, which keeps its recipe and its measures. */
export function ToAnother({ bench, onClose }: { bench: Bench; onClose: () => void }) {
  const own = bench.design.id;
  const cache = useQueryClient();
  const [, go] = useLocation();
  const { data: items } = useQuery({ queryKey: ["shelf"], queryFn: api.shelf });
  const [search, setSearch] = useState("");
  const [refused, setRefused] = useState<string | null>(null);
  const [going, setGoing] = useState<string | null>(null);
  const wanted = search.trim().toLowerCase();
  const found = items?.filter((d) => d.id !== own && !d.damage && d.name.toLowerCase().includes(wanted));
  const take = async (id: string, version: number) => {
    setGoing(id);
    try {
      cache.setQueryData(designKey(id), await api.takeOutline(id, version, own));
      onClose();
      go(`/design/${id}/tiers`);
    } catch (e) {
      setGoing(null);
      setRefused(refusal(e));
      void cache.invalidateQueries({ queryKey: ["shelf"] });
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
      <input
        value={search}
        onChange={(e) => setSearch(e.target.value)}
        placeholder="Search by name"
        aria-label="Search by name"
        className="mb-3 w-full rounded-tile border border-edge bg-field px-2 py-1.5 text-sm"
      />
      {refused && (
        <p role="alert" className="pb-2 text-sm text-terracotta">
          {refused}
        </p>
      )}
      <ul
        className="grid max-h-96 grid-cols-4 gap-1.5 overflow-y-auto max-sm:grid-cols-2"
        aria-label="Other designs"
      >
        {found?.map((d) => (
          <li key={d.id}>
            <button
              type="button"
              className="flex h-full w-full flex-col items-center gap-1 rounded-tile bg-sunk p-2 text-xs font-semibold hover:text-glaze"
              onClick={() => going === null && void take(d.id, d.version)}
            >
              <span className="flex h-20 w-full items-center justify-center">
                <img
                  src={thumbnailUrl(d.id, d.version)}
                  alt=""
                  loading="lazy"
                  className="max-h-18 max-w-full"
                />
              </span>
              <span className="w-full truncate">{d.name}</span>
              <span className="font-normal text-soft">{going === d.id ? "taking it there…" : d.recipe}</span>
            </button>
          </li>
        ))}
      </ul>
      {found?.length === 0 && (
        <p className="py-6 text-center text-sm text-soft">
          {wanted ? "No other design of that name." : "There is no other design on the shelf yet."}
        </p>
      )}
      <div className="flex justify-end pt-3">
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </DialogFrame>
  );
}
