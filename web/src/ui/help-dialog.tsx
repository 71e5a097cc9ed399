import { Dialog } from "radix-ui";
import { Link } from "wouter";
import { useInterface } from "../state/interface";
import { Button } from "./button";
import { DialogFrame } from "./dialog";
import { Icon } from "./icons";

const GROUPS: [string, [string, string][]][] = [
  [
    "On the bench",
    [
      ["1 to 5", "Artwork, Outline, Tiers, Check, Print"],
      ["Ctrl Z", "Undo"],
      ["Ctrl Shift Z, Ctrl Y", "Redo"],
      ["M", "Show what is cut, or the tool"],
      ["Esc", "One step back: what is typed, the tool, what is chosen, a dialog"],
    ],
  ],
  [
    "On the picture",
    [
      ["N, L", "Nodes; a loupe at the pointer"],
      ["B, held", "Before: the picture alone"],
      ["Arrows, Space", "Move the tool's crosshair; press it"],
      ["Tab, then arrows", "Move a corner or point by pixels; Alt while dragging catches no node"],
      ["Esc", "Put the tool down"],
    ],
  ],
  [
    "On the outline",
    [
      ["C P F N K R", "Choose, pen, freehand, nodes, cut, measure (ruler)"],
      ["E D B O A", "What is chosen becomes edge, detail, both, opening, or is put aside"],
      ["Shift click, drag", "Choose several; sweep a frame, with Alt a loop"],
      ["Arrows", "Move what is chosen by a millimetre; in a tool, its crosshair"],
      ["Space, Enter", "Set a node at the crosshair; end the line (Shift: closed)"],
      ["A, Backspace", "Pen: arcs; take the last node back"],
      ["X, S, N, Delete", "Nodes: corner, smooth, the next one, out"],
      ["Ctrl A, C, V, D", "Choose all; copy, paste (into any design), double"],
      ["Alt, held", "Catch nothing while drawing"],
      ["+ − 0, wheel", "Zoom, fit; Space or the middle button moves"],
      ["Arrows, E D B O A, P", "In the list of patches: walk; give a use; pin"],
    ],
  ],
  [
    "In a measure",
    [
      ["↑ ↓", "One step; with Shift ten, with Alt a tenth"],
      ["Enter", "Take what was typed: 3, 3 mm, 1/8 in, 2,5"],
      ["Esc", "Take back what was typed"],
      ["Ctrl Z", "Once it is taken: undo it"],
    ],
  ],
  [
    "In section, plan and solid",
    [
      ["Tab, then ↑ ↓", "Move a height by printed layers, the line A–A by millimetres"],
      ["Drag, wheel", "Turn and zoom the solid; the button brings the first view back"],
      ["Tab, then arrows", "Turn the solid by 15°, with Shift by 45°"],
    ],
  ],
  [
    "On a bed",
    [
      ["Tab, arrows", "From piece to piece; move what is chosen by a millimetre"],
      ["T, Shift T", "Turn what is chosen by 15°, to the left or right"],
      ["Shift click, Esc", "Choose several; none"],
      ["Delete", "Take what is chosen off the bed"],
    ],
  ],
  [
    "Anywhere",
    [
      ["Ctrl V", "On the shelf: start from a picture in the clipboard"],
      ["?", "This page"],
    ],
  ],
];

/** All keys, and the switch for those that are letters. */
export function HelpDialog({ onClose }: { onClose: () => void }) {
  const { hasLetterKeys, setLetterKeys } = useInterface();
  return (
    <DialogFrame
      onClose={onClose}
      className="top-1/2 max-h-[94vh] w-[min(880px,94vw)] -translate-y-1/2 overflow-y-auto p-6"
    >
      <div className="flex items-center pb-3">
        <Dialog.Title className="font-display text-xl font-semibold">Keys</Dialog.Title>
        <Link href="/guide" onClick={onClose} className="ml-4 text-sm font-semibold text-glaze underline">
          Guide: from a picture to a file
        </Link>
        <Dialog.Close asChild>
          <Button look="bare" className="ml-auto" aria-label="Close">
            <Icon name="close" />
          </Button>
        </Dialog.Close>
      </div>
      <label className="flex items-center gap-2 pb-4 text-sm">
        <input
          type="checkbox"
          className="size-6 accent-(--glaze)"
          checked={hasLetterKeys}
          onChange={(e) => setLetterKeys(e.target.checked)}
        />
        Letters and digits alone do something
        <span className="text-soft">(in a drawing that has the focus they always do)</span>
      </label>
      <div className="grid gap-x-8 gap-y-5 sm:grid-cols-2">
        {GROUPS.map(([title, rows]) => (
          <section key={title}>
            <h3 className="pb-1.5 font-display font-semibold">{title}</h3>
            <dl className="text-sm">
              {rows.map(([keys, words]) => (
                <div key={keys} className="flex gap-3 border-t border-line py-1">
                  <dt className="w-32 flex-none font-semibold">{keys}</dt>
                  <dd className="text-soft">{words}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </DialogFrame>
  );
}
