import { type ReactNode, useState } from "react";
import type { Bench } from "../../api/bench";
import { outlineUrl } from "../../api/client";
import type { PatchView } from "../../api/generated/PatchView";
import type { Spot } from "../../api/generated/Spot";
import type { Thinnest } from "../../api/generated/Thinnest";
import type { Use } from "../../api/generated/Use";
import { DIALOGS } from "../../parts";
import { Button } from "../../ui/button";
import { Card, Group } from "../../ui/panel";
import { DialogPart } from "../../ui/part";
import { ProblemNote } from "../../ui/problem-note";
import { Views } from "../../ui/views";
import { Measures } from "../tiers/measures";
import { Actions } from "./actions";
import type { Zoom } from "./canvas-view";
import { Changes } from "./changes";
import { ColoursToFilaments } from "./colour-filaments";
import { EntryPanel, useOpenEntry } from "./entry-panel";
import { useKeys } from "./keys";
import { followed, patchAt } from "./known";
import { Nest } from "./nest";
import { PlanPanel } from "./plan-panel";
import { SizeFields } from "./size-fields";
import type { ToolName } from "./tool-list";
import { useChoose } from "./tools/choose";
import { useMeasure } from "./tools/measure";
import { useNodes } from "./tools/nodes";
import { useCut, useFreehand, usePen } from "./tools/pen";
import { spotOf, spotsOf, type ToolParts, type ToolProps, withInside, withPins } from "./tools/tool";

/** Contours at true size: which patch is what, and what is done to it. */
export function Outline({ bench }: { bench: Bench }) {
  const { result } = bench;
  const { patches } = result;
  // Chosen patches are remembered by a point in each: their places in the list change.
  const [spots, setSpots] = useState<Spot[]>([]);
  const [tool, setTool] = useState<{ name: ToolName; entry: number | null; run: number }>({
    name: "choose",
    entry: null,
    run: 0,
  });
  const among = (all: readonly PatchView[]) => [
    ...new Set(spots.map((s) => patchAt(all, s)).filter((i) => i !== null)),
  ];
  const chosen = among(patches);
  const [thin, setThin] = useState<Thinnest | null>(null);
  // What is seen stays when another tool is taken in hand.
  const [zoom, setZoom] = useState<Zoom | null>(null);
  const [picture, setPicture] = useState<number | null>(null);
  const saved = bench.design.result.patches;
  const on = spotsOf(saved, among(saved));
  const carried = spotsOf(saved, withInside(saved, among(saved)));
  const setChosen = (now: number[]) => setSpots(now.flatMap((i) => patches[i] ?? []).map(followed));
  const give = (p: PatchView, use: Use) =>
    bench.change([{ kind: "set-uses", choices: [{ spot: spotOf(p), use }] }]);
  const giveChosen = (use: Use) =>
    chosen.length > 0 && bench.change([{ kind: "set-uses", choices: on.map((spot) => ({ spot, use })) }]);
  const pick = (i: number) => setChosen(chosen.includes(i) ? chosen.filter((n) => n !== i) : [...chosen, i]);
  const pin = (p: PatchView) => bench.change([withPins(patches, [p], !p.is_pinned)]);
  const take = (name: ToolName, entry: number | null = null) =>
    setTool((now) => ({ name, entry, run: now.run + 1 }));
  useKeys({ bench, chosen, on, tool: tool.name, take, setChosen, giveChosen });
  const giveAll = (use: (p: PatchView) => Use) =>
    bench.change([{ kind: "set-uses", choices: patches.map((p) => ({ spot: spotOf(p), use: use(p) })) }]);
  const seen = { zoom, setZoom, picture, setPicture, thin };
  const [isTaking, setTaking] = useState(false);
  const { entry, setOpen } = useOpenEntry(bench.design.document.changes);
  const toolProps: ToolProps = { bench, chosen, on, carried, setChosen, onDone: () => take("choose") };
  return (
    <Views names={["Plan", "Outline"]} columns="grid-cols-[minmax(0,1fr)_320px]">
      <WithTool key={`${tool.name}${tool.run}`} {...toolProps} name={tool.name} entry={tool.entry}>
        {(parts) => (
          <PlanPanel
            {...toolProps}
            tool={tool.name}
            take={take}
            parts={parts}
            onUse={giveChosen}
            entry={entry}
            {...seen}
          />
        )}
      </WithTool>
      <div className="flex min-h-0 flex-col gap-1.5">
        {entry && (
          <EntryPanel
            key={entry.id}
            bench={bench}
            entry={entry}
            onNodes={() => take("nodes", entry.id)}
            onClose={() => setOpen(null)}
          />
        )}
        <Card
          title="Outline"
          foot={
            <div className="grid grid-cols-2 gap-1.5">
              <Button onClick={() => setTaking(true)}>To another design…</Button>
              <a
                href={outlineUrl(bench.design.id)}
                download
                className="flex justify-center rounded-tile border border-edge px-3 py-1 text-sm font-semibold hover:border-glaze hover:text-glaze"
              >
                Outline as SVG
              </a>
              {isTaking && (
                <DialogPart part={DIALOGS.toAnother} given={{ bench, onClose: () => setTaking(false) }} />
              )}
            </div>
          }
        >
          {result.problem && <ProblemNote problem={result.problem} />}
          <SizeFields bench={bench} />
          {result.drawing_at && <Measures bench={bench} only="Place" />}
          <Actions bench={bench} chosen={chosen} on={on} setChosen={setChosen} onShow={setThin} />
          <Changes
            bench={bench}
            on={on}
            onNodes={(entry) => take("nodes", entry)}
            open={entry?.id ?? null}
            onOpen={setOpen}
          />
          <Group title="Patches" note={`${patches.filter((p) => p.use !== "aside").length} in use`}>
            <div className="flex gap-1 pb-1.5">
              <Button
                className="flex-1 px-1 text-xs"
                title="The outer contours shape the object; all else is put aside"
                onClick={() => giveAll((p) => (p.is_ink && p.depth === 0 ? "edge" : "aside"))}
              >
                Only the outer edge
              </Button>
              <Button
                className="flex-1 px-1 text-xs"
                title="What the outer contours enclose shapes the object"
                why={!patches.some((p) => p.depth === 1) && "No contour encloses anything"}
                onClick={() =>
                  giveAll((p) => (p.depth === 1 ? "edge" : p.depth > 1 && p.is_ink ? "detail" : "aside"))
                }
              >
                Only what is inside
              </Button>
            </div>
            <ColoursToFilaments bench={bench} />
            <Nest bench={bench} chosen={chosen} onPick={pick} onUse={give} onPin={pin} />
          </Group>
        </Card>
      </div>
    </Views>
  );
}

interface WithToolProps extends ToolProps {
  name: ToolName;
  entry: number | null;
  children: (parts: ToolParts) => ReactNode;
}

/** A tool's own state lives as long as the tool is in the hand. */
function WithTool(p: WithToolProps) {
  switch (p.name) {
    case "choose":
      return <Choosing {...p} />;
    case "nodes":
      return <OnNodes {...p} />;
    default:
      return (
        <Drawing
          {...p}
          use={{ pen: usePen, freehand: useFreehand, cut: useCut, measure: useMeasure }[p.name]}
        />
      );
  }
}
const Choosing = (p: WithToolProps) => p.children(useChoose(p));
const OnNodes = (p: WithToolProps) => p.children(useNodes(p));
const Drawing = (p: WithToolProps & { use: (p: ToolProps) => ToolParts }) => p.children(p.use(p));
