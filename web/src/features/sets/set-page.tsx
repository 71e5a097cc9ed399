import { useEffect, useRef, useState } from "react";
import { useSearch } from "wouter";
import { PICTURE_TYPES } from "../../api/client";
import { complain } from "../../api/complain";
import type { SetMember } from "../../api/generated/SetMember";
import { BAR, ToShelf, undoKey } from "../../ui/bar-parts";
import { Button } from "../../ui/button";
import { FileInput } from "../../ui/file-input";
import { isTyping } from "../../ui/help";
import { Icon } from "../../ui/icons";
import { PageTools } from "../../ui/page-tools";
import { Panel } from "../../ui/panel";
import { useDrop } from "../../ui/use-drop";
import { Views } from "../../ui/views";
import { BenchLoading } from "../bench/bench-loading";
import { clock } from "../print/time";
import { usePutOnBed } from "../shelf/beds";
import { SetCard } from "./set-card";
import { SetTable } from "./set-table";
import { useSet } from "./use-set";

/** What keeps a design that takes too long to print within the limit. */
const smaller = ({ made }: SetMember) => (made?.is_over ? made.edits : []);

const BUSY = "The set is being made";

/** The page on which designs with one label are worked on together. */
export function SetPage() {
  const label = new URLSearchParams(useSearch()).get("label") ?? "";
  return <Together key={label} label={label} />;
}

function Together({ label }: { label: string }) {
  const [limit, setLimit] = useState("");
  const work = useSet(label, limit);
  const put = usePutOnBed();
  const input = useRef<HTMLInputElement>(null);
  const { members, usual, undo, progress } = work;
  const add = (files: readonly File[]) => void work.add(files).catch(complain);
  const { isOver, drop } = useDrop(add);
  useEffect(() => {
    document.title = `${label} · Kachel`;
    const press = (e: KeyboardEvent) => {
      if (e.defaultPrevented || isTyping(e) || undoKey(e) !== "undo" || !undo) return;
      undo();
      e.preventDefault();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  });
  if (!members) return <BenchLoading />;
  const made = members.flatMap((m) => (m.is?.made ? [m.is.made] : []));
  const over = members.filter((m) => m.is && smaller(m.is).length > 0);
  const seconds = made.reduce((sum, m) => sum + m.seconds, 0);
  return (
    // The whole page takes dropped pictures; the button does the same.
    <div className="grid h-full grid-rows-[auto_minmax(0,1fr)] gap-1.5 p-1.5" {...drop}>
      <header className={BAR}>
        <ToShelf />
        <h1 className="truncate font-display text-xl font-semibold">{label}</h1>
        <span className="text-sm whitespace-nowrap text-soft">
          a set of {members.length}
          {made.length > 0 && `, ${clock(seconds)} in all, one by one`}
        </span>
        <span className="ml-auto flex items-center gap-1.5">
          <Button why={progress !== null && BUSY} onClick={() => input.current?.click()}>
            Add pictures
          </Button>
          <FileInput ref={input} label="Pictures to add" accept={PICTURE_TYPES} onFiles={add} />
          <Button
            look="solid"
            why={made.length === 0 && "No picture became an object yet"}
            onClick={() => void work.objects().then((all) => put(all, null))}
          >
            Put all on a bed
          </Button>
          <Button
            look="bare"
            aria-label="Undo"
            title="Undo the last change of all"
            why={!undo && "Nothing to undo"}
            onClick={() => undo?.()}
          >
            <Icon name="undo" />
          </Button>
          <PageTools />
        </span>
      </header>
      <main className="grid min-h-0">
        <Views names={["Designs", "In common"]} columns="grid-cols-[minmax(0,1fr)_330px]">
          <Panel
            title="Designs"
            note={
              isOver
                ? "let go to add them"
                : "what one has of its own is marked, and stays when the others change"
            }
            tools={
              over.length > 0 && (
                <Button
                  className="text-xs"
                  why={progress !== null && BUSY}
                  onClick={() => void work.change((m) => smaller(m.is)).catch(complain)}
                >
                  Make {over.length} smaller, to keep the limit
                </Button>
              )
            }
          >
            <div className="absolute inset-0 overflow-y-auto px-4 pb-3">
              {members.length === 0 && (
                <p className="py-10 text-center text-soft">
                  Nothing on the shelf has the label “{label}”. Drop pictures here, or label designs on the
                  shelf.
                </p>
              )}
              <SetTable work={work} />
            </div>
          </Panel>
          {usual ? <SetCard work={work} usual={usual} onLimit={setLimit} /> : <span />}
        </Views>
      </main>
    </div>
  );
}
