import { Dialog } from "radix-ui";
import { useState } from "react";
import { type BedWork, bedFileUrl } from "../../api/beds";
import type { ShelfItem } from "../../api/generated/ShelfItem";
import { printerApi } from "../../api/printer";
import { BAR, UndoRedo, WorkTitle } from "../../ui/bar-parts";
import { Button } from "../../ui/button";
import { DesignTiles } from "../../ui/design-tiles";
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
  const copies = new Map(work.bed.result.designs.map((d) => [d.id, d.copies]));
  const copiesOf = (d: ShelfItem) => copies.get(d.id) ?? 0;
  return (
    <DialogFrame onClose={onClose} className="top-[10vh] w-[min(680px,94vw)] p-5">
      <Dialog.Title className="pb-3 font-display text-lg font-semibold">Add designs</Dialog.Title>
      <DesignTiles
        label="Designs on the shelf"
        noteOf={(d) => (copiesOf(d) === 0 ? "not on the bed" : `${copiesOf(d)} on the bed`)}
        onPick={(d) => void work.commit([{ kind: "set-copies", design: d.id, copies: copiesOf(d) + 1 }])}
        none={() => "No design of that name."}
      />
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
