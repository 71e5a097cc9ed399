import { Dialog } from "radix-ui";
import { useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import { PICTURE_TYPES } from "../../api/client";
import { Button } from "../../ui/button";
import { DialogFrame } from "../../ui/dialog";
import { FileInput } from "../../ui/file-input";

/** Another picture under the same design. Where there is a credit, it asks whose it is. */
export function Replace({ bench }: { bench: Bench }) {
  const input = useRef<HTMLInputElement>(null);
  const [asked, setAsked] = useState<File | null>(null);
  const { credit } = bench.design.document;
  const put = (file: File, of: "keep" | "clear") => {
    setAsked(null);
    bench.replace(file, of);
  };
  return (
    <>
      <Button className="ml-auto px-2 text-xs" onClick={() => input.current?.click()}>
        Another picture…
      </Button>
      <FileInput
        ref={input}
        label="Another picture file"
        accept={PICTURE_TYPES}
        tabIndex={-1}
        onFile={(file) => {
          if (Object.values(credit).some((words) => words !== "")) setAsked(file);
          else put(file, "keep");
        }}
      />
      {asked && (
        <DialogFrame onClose={() => setAsked(null)} className="top-[24vh] w-[min(440px,92vw)] p-5">
          <Dialog.Title className="font-display text-lg font-semibold">
            Whose is the new picture?
          </Dialog.Title>
          <p className="py-3 text-sm">
            The credit names {credit.maker || credit.source || credit.licence || credit.note} for the picture
            that is there now. Does it hold for “{asked.name}”, too?
          </p>
          <div className="flex justify-end gap-2">
            <Button onClick={() => setAsked(null)}>Cancel</Button>
            <Button onClick={() => put(asked, "clear")}>Empty the credit</Button>
            <Button look="solid" onClick={() => put(asked, "keep")}>
              Keep the credit
            </Button>
          </div>
        </DialogFrame>
      )}
    </>
  );
}
