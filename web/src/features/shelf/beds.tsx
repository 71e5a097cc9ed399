import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "wouter";
import { BEDS, bedApi, bedFileUrl, bedKey } from "../../api/beds";
import type { BedItem } from "../../api/generated/BedItem";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { Item, Menu } from "../../ui/menu";
import { RenameDialog } from "../../ui/rename-dialog";
import { PrinterLink } from "../printer/send";
import { useShelfWork } from "./shelf-work";

/** The beds on the shelf. */
export const useBeds = () => useQuery({ queryKey: BEDS, queryFn: bedApi.list, refetchOnMount: "always" });

/** Puts a design on a new bed, or on one that is there, and goes to it. */
export function usePutOnBed() {
  const cache = useQueryClient();
  const [, go] = useLocation();
  const { complain, refresh } = useShelfWork(BEDS);
  return async (designs: string[], bed: string | null) => {
    try {
      if (bed === null) {
        const made = await bedApi.create(designs);
        cache.setQueryData(bedKey(made.id), made);
        go(`/bed/${made.id}`);
      } else {
        const there = await bedApi.show(bed);
        const copies = (id: string) => there.result.designs.find((d) => d.id === id)?.copies ?? 0;
        const edits = designs.map(
          (design) => ({ kind: "set-copies", design, copies: copies(design) + 1 }) as const,
        );
        cache.setQueryData(bedKey(bed), await bedApi.edit(bed, there.version, edits));
        go(`/bed/${bed}`);
      }
      void refresh();
    } catch (e) {
      complain(e);
    }
  };
}

/** The row of beds. */
export function Beds() {
  const { data: beds } = useBeds();
  const put = usePutOnBed();
  return (
    <section aria-label="Beds" className="flex items-center gap-4 rounded-tile bg-tile px-4 py-2.5">
      <h2 className="font-display font-semibold">Beds</h2>
      {beds?.length === 0 && (
        <p className="text-sm text-soft">
          Put several designs, or many copies of one, on a bed to print them together.
        </p>
      )}
      <ul className="flex min-w-0 flex-1 flex-wrap gap-2">
        {beds?.map((bed) => (
          <Lying key={bed.id} bed={bed} />
        ))}
      </ul>
      <Button className="flex-none" onClick={() => void put([], null)}>
        New bed
      </Button>
      <PrinterLink />
    </section>
  );
}

function Lying({ bed }: { bed: BedItem }) {
  const cache = useQueryClient();
  const { attempt, refresh, sayGone } = useShelfWork(BEDS);
  const [isRenaming, setRenaming] = useState(false);
  async function remove() {
    await bedApi.remove(bed.id);
    sayGone(`${bed.name} is`, () => bedApi.restore(bed.id));
  }
  async function rename(name: string) {
    const { version } = await bedApi.show(bed.id);
    await bedApi.edit(bed.id, version, [{ kind: "rename", name }]);
    await Promise.all([refresh(), cache.invalidateQueries({ queryKey: bedKey(bed.id) })]);
  }
  const pieces = `${bed.pieces} ${bed.pieces === 1 ? "piece" : "pieces"}`;
  return (
    <li className="flex w-56 items-center gap-1 rounded-tile bg-sunk p-1.5" data-bed={bed.id}>
      <Link
        href={`/bed/${bed.id}`}
        aria-label={`Open ${bed.name}`}
        className="flex min-w-0 flex-1 items-center gap-2.5 hover:text-glaze"
      >
        <span className="flex size-11 flex-none items-center justify-center overflow-hidden rounded-tile border border-edge bg-tile">
          {bed.plates > 0 && (
            <img src={`${bedFileUrl(bed.id, 0, "png")}&v=${bed.version}`} alt="" className="max-h-full" />
          )}
        </span>
        <span className="min-w-0">
          <span className="block truncate text-sm font-semibold">{bed.name}</span>
          <span className="block text-xs text-soft">
            {bed.damage ? "cannot be read" : pieces}
            {bed.plates > 1 && ` in ${bed.plates} fillings`}
          </span>
        </span>
      </Link>
      <Menu
        trigger={
          <Button look="bare" aria-label={`More about ${bed.name}`}>
            <Icon name="more" />
          </Button>
        }
      >
        {bed.damage ? (
          <Item
            words="Go back to the state before"
            note={bed.damage.why}
            why={!bed.damage.has_earlier && "there is none"}
            onPick={() => attempt(bedApi.rescue(bed.id, bed.version))}
          />
        ) : (
          <>
            <Item words="Rename…" onPick={() => setRenaming(true)} />
            <Item words="Duplicate" onPick={() => attempt(bedApi.duplicate(bed.id))} />
          </>
        )}
        <Item words="Delete" onPick={() => attempt(remove())} />
      </Menu>
      {isRenaming && (
        <RenameDialog what="bed" name={bed.name} onClose={() => setRenaming(false)} onRename={rename} />
      )}
    </li>
  );
}
