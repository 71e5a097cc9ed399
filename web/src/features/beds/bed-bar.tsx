import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { type BedWork, bedFileUrl } from "../../api/beds";
import { api, thumbnailUrl } from "../../api/client";
import { printerApi } from "../../api/printer";
import { BAR, UndoRedo, WorkTitle } from "../../ui/bar-parts";
import { Button } from "../../ui/button";
import { DialogFrame } from "../../ui/dialog";
import { Icon } from "../../ui/icons";
import { LinkItem, Menu } from "../../ui/menu";
import { PageTools } from "../../ui/page-tools";
import { RenameDialog } from "../../ui/rename-dialog";
import { SendToPrinter } from "../printer/send";

const NOTHING = "There is nothing on this bed yet";

/** Name, undo, what can be added and taken home. */
export function BedBar({ work, plate }: { work: BedWork; plate: number }) {
  const { bed } = work;
  const [isRenaming, setRenaming] = useState(false);
  const [isAdding, setAdding] = useState(false);
  const isEmpty = bed.result.plates === 0;
  const file = (format: Parameters<typeof bedFileUrl>[2]) => bedFileUrl(bed.id, plate, format);
  return (
    <header className={BAR}>
      <WorkTitle
        name={bed.document.name}
        version={bed.version}
        savedAt={bed.saved_at}
        onRename={() => setRenaming(true)}
      />
      <div className="ml-auto flex items-center gap-1.5">
        <Button onClick={() => setAdding(true)}>Add designs</Button>
        <Button onClick={work.arrange} why={bed.document.pieces.length === 0 && NOTHING}>
          Arrange
        </Button>
        <SendToPrinter why={isEmpty ? NOTHING : null} send={() => printerApi.sendPlate(bed.id, plate)} />
      </div>
      <div className="flex items-center">
        <UndoRedo
          undo={bed.undo}
          redo={bed.redo}
          isSaving={work.isSaving}
          onUndo={work.undo}
          onRedo={work.redo}
        />
        <PageTools onWorkshop={work.refresh} />
      </div>
      <Menu
        trigger={
          <Button look="solid" why={isEmpty && NOTHING}>
            Take home <Icon name="down" className="size-4" />
          </Button>
        }
      >
        <LinkItem words="3MF" note="objects, colours, places" href={file("3mf")} />
        <LinkItem words="STL" note="all in one" href={file("stl")} />
        <LinkItem words="STL, one a design" note="ZIP" href={file("singles")} />
        <LinkItem words="Sheet to print" note="PDF: numbers, names, credits, changes" href={file("pdf")} />
        <LinkItem words="The same as a drawing" note="SVG" href={file("sheet")} />
        <LinkItem words="Picture" note="PNG" href={file("png")} />
      </Menu>
      {isRenaming && (
        <RenameDialog
          what="bed"
          name={bed.document.name}
          onClose={() => setRenaming(false)}
          onRename={(name) => work.commit([{ kind: "rename", name }])}
        />
      )}
      {isAdding && <AddDesigns work={work} onClose={() => setAdding(false)} />}
    </header>
  );
}

/** The shelf's designs, to be put on the bed. */
function AddDesigns({ work, onClose }: { work: BedWork; onClose: () => void }) {
  const { data: items } = useQuery({ queryKey: ["shelf"], queryFn: api.shelf });
  const [search, setSearch] = useState("");
  const copies = new Map(work.bed.result.designs.map((d) => [d.id, d.copies]));
  const found = items?.filter((d) => d.name.toLowerCase().includes(search.trim().toLowerCase()));
  return (
    <DialogFrame onClose={onClose} className="top-[10vh] w-[min(680px,94vw)] p-5">
      <Dialog.Title className="pb-3 font-display text-lg font-semibold">Add designs</Dialog.Title>
      <input
        value={search}
        onChange={(e) => setSearch(e.target.value)}
        placeholder="Search by name"
        aria-label="Search by name"
        className="mb-3 w-full rounded-tile border border-edge bg-field px-2 py-1.5 text-sm"
      />
      <ul
        className="grid max-h-96 grid-cols-4 gap-1.5 max-sm:grid-cols-2 overflow-y-auto"
        aria-label="Designs on the shelf"
      >
        {found?.map((d) => {
          const n = copies.get(d.id) ?? 0;
          return (
            <li key={d.id}>
              <button
                type="button"
                className="flex h-full w-full flex-col items-center gap-1.5 rounded-tile bg-sunk p-2 text-xs font-semibold hover:text-glaze"
                onClick={() => void work.commit([{ kind: "set-copies", design: d.id, copies: n + 1 }])}
              >
                <span className="flex h-20 w-full items-center justify-center">
                  <img src={thumbnailUrl(d.id, d.version)} alt="" className="max-h-18 max-w-full" />
                </span>
                <span className="w-full truncate">{d.name}</span>
                <span className="font-normal text-soft">
                  {n === 0 ? "not on the bed" : `${n} on the bed`}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
      {found?.length === 0 && <p className="py-6 text-center text-sm text-soft">No design of that name.</p>}
      <div className="flex items-center pt-3">
        <p className="text-xs text-soft">
          Each press adds one copy. What was moved by hand stays where it is.
        </p>
        <Dialog.Close asChild>
          <Button look="solid" className="ml-auto">
            Done
          </Button>
        </Dialog.Close>
      </div>
    </DialogFrame>
  );
}
