import clsx from "clsx";
import { ToggleGroup } from "radix-ui";
import { useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { PatchView } from "../../api/generated/PatchView";
import type { Use } from "../../api/generated/Use";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { Card, Group, Panel } from "../../ui/panel";
import { ProblemNote } from "../../ui/problem-note";
import { css } from "../artwork/frame";
import { Plan } from "../views/plan";
import { SideSwitch } from "../views/side-switch";
import { Changes } from "./changes";
import { Marks } from "./marks";
import { SizeFields } from "./size-fields";

const USES: [Use, string][] = [
  ["edge", "Edge"],
  ["detail", "Detail"],
  ["aside", "Aside"],
];
/** Rows of the list; the plan shows them all. */
const MOST_ROWS = 150;

/** Contours at true size: which patch is what. */
export function Outline({ bench }: { bench: Bench }) {
  const { result, design } = bench;
  const { side, patch, pointPatch } = useInterface();
  const choose = (p: PatchView, use: Use) =>
    bench.change([{ kind: "set-uses", choices: [{ at: p.at, is_ink: p.is_ink, use }] }]);
  // A click puts a patch aside, or brings it back as what it would be by itself.
  const toggle = (i: number) => {
    const p = result.patches[i];
    if (p) choose(p, p.use === "aside" ? (p.depth === 0 ? "edge" : "detail") : "aside");
  };
  const giveAll = (use: (p: PatchView) => Use) =>
    bench.change([
      {
        kind: "set-uses",
        choices: result.patches.map((p) => ({ at: p.at, is_ink: p.is_ink, use: use(p) })),
      },
    ]);
  // Which patches are worked on together; forgotten when the patches change.
  const [chosen, setChosen] = useState<number[]>([]);
  const known = useRef(result.patches);
  if (known.current !== result.patches) {
    known.current = result.patches;
    if (chosen.length > 0) setChosen([]);
  }
  const pick = (i: number) =>
    setChosen((now) => (now.includes(i) ? now.filter((n) => n !== i) : [...now, i]));
  const onChoose = (i: number, isMore: boolean) => (isMore ? pick(i) : toggle(i));
  const canFit = result.outline !== null;
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_320px] gap-1.5">
      <Panel
        title="Plan"
        note={
          side === "cookie"
            ? "as the cookie reads · click a patch to keep it or put it aside, Shift-click to choose several"
            : "the tool, mirrored"
        }
        tools={<SideSwitch />}
      >
        {canFit ? (
          <Plan
            result={result}
            unit={design.document.unit}
            side={side}
            shows="patches"
            pointed={patch}
            onPoint={pointPatch}
            onChoose={onChoose}
            chosen={chosen}
            overlay={(frame) => <Marks bench={bench} frame={frame} />}
          />
        ) : (
          <NoOutline bench={bench} toggle={toggle} />
        )}
        <Legend />
      </Panel>
      <Card title="Outline">
        {result.problem && <ProblemNote problem={result.problem} />}
        <SizeFields bench={bench} />
        <Changes bench={bench} chosen={chosen} setChosen={setChosen} />
        <Group title="Patches" note={`${result.patches.filter((p) => p.use !== "aside").length} in use`}>
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
              disabled={!result.patches.some((p) => p.depth === 1)}
              onClick={() =>
                giveAll((p) => (p.depth === 1 ? "edge" : p.depth > 1 && p.is_ink ? "detail" : "aside"))
              }
            >
              Only what is inside
            </Button>
          </div>
          <ul>
            {result.patches.slice(0, MOST_ROWS).map((p, i) => (
              <li
                // biome-ignore lint/suspicious/noArrayIndexKey: patches have no other name
                key={i}
                className={clsx("flex items-center gap-2 rounded-tile py-1 pr-1", patch === i && "bg-sunk")}
                style={{ paddingLeft: 4 + Math.min(p.depth, 4) * 10 }}
                onPointerEnter={() => pointPatch(i)}
                onPointerLeave={() => pointPatch(null)}
                data-row={i}
              >
                <Swatch patch={p} />
                {p.colour && (
                  <span
                    className="-ml-1 size-3 flex-none rounded-[3px] border border-line"
                    style={{ background: css(p.colour) }}
                  />
                )}
                <button
                  type="button"
                  aria-pressed={chosen.includes(i)}
                  aria-label={`Choose ${p.is_ink ? "ink" : "gap"} ${i + 1}`}
                  onClick={() => pick(i)}
                  onKeyDown={(e) => giveByKey(e, (u) => choose(p, u))}
                  className="min-w-0 flex-1 truncate rounded-tile text-left text-sm aria-pressed:text-terracotta aria-pressed:underline"
                >
                  {p.group ?? (p.is_ink ? "Ink" : "Gap")}{" "}
                  <span className="text-xs text-soft">{p.area === null ? "" : areaOf(p.area)}</span>
                </button>
                <UseChoice
                  patch={p}
                  name={`${p.is_ink ? "Ink" : "Gap"} ${i + 1}`}
                  onChoose={(u) => choose(p, u)}
                />
              </li>
            ))}
          </ul>
          {result.patches.length > MOST_ROWS && (
            <p className="pt-1 text-xs text-soft">
              and {result.patches.length - MOST_ROWS} smaller ones; click them in the plan
            </p>
          )}
        </Group>
      </Card>
    </div>
  );
}

function areaOf(mm2: number): string {
  return mm2 >= 100 ? `${(mm2 / 100).toFixed(1)} cm²` : `${mm2.toFixed(1)} mm²`;
}

function Swatch({ patch }: { patch: PatchView }) {
  const look = { edge: "bg-wall", detail: "bg-stamp", aside: "border border-dashed border-edge" }[patch.use];
  return <span className={clsx("size-3 flex-none rounded-[3px]", look)} />;
}

/** E, D and A give a use to the patch whose row has the focus. */
function giveByKey(e: React.KeyboardEvent, onChoose: (use: Use) => void) {
  const use = ({ e: "edge", d: "detail", a: "aside" } as Record<string, Use>)[e.key.toLowerCase()];
  if (use && !e.ctrlKey && !e.metaKey) onChoose(use);
}

function UseChoice(p: { patch: PatchView; name: string; onChoose: (use: Use) => void }) {
  return (
    <ToggleGroup.Root
      type="single"
      value={p.patch.use}
      aria-label={`Use of ${p.name}`}
      className="flex overflow-hidden rounded-tile border border-edge"
      onValueChange={(v) => v && p.onChoose(v as Use)}
      onKeyDown={(e) => giveByKey(e, p.onChoose)}
    >
      {USES.map(([use, words]) => (
        <ToggleGroup.Item
          key={use}
          value={use}
          className="border-l border-line px-1.5 py-0.5 text-xs font-medium first:border-l-0 hover:text-glaze data-[state=on]:bg-deep data-[state=on]:text-on-deep"
        >
          {words}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

function Legend() {
  return (
    <p className="pointer-events-none absolute right-3 bottom-2 flex gap-4 text-xs text-soft">
      <span className="flex items-center gap-1.5">
        <span className="size-2.5 rounded-xs bg-wall" /> edge
      </span>
      <span className="flex items-center gap-1.5">
        <span className="size-2.5 rounded-xs bg-stamp" /> detail
      </span>
      <span className="flex items-center gap-1.5">
        <span className="size-2.5 rounded-xs border border-dashed border-edge" /> put aside
      </span>
    </p>
  );
}

/** Without an edge there is no size; the patches are still there to choose from. */
function NoOutline({ bench, toggle }: { bench: Bench; toggle: (i: number) => void }) {
  const { result } = bench;
  if (!result.picture) return null;
  const [x, y, w, h] = result.picture.part;
  return (
    <svg
      viewBox={`${x} ${y} ${w} ${h}`}
      className="absolute inset-8 h-[calc(100%-4rem)] w-[calc(100%-4rem)]"
      aria-label="Patches"
    >
      {result.patches.map((p, i) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: the list beside the plan does the same by keyboard
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: patches have no other name
          key={i}
          d={p.path}
          fillRule="evenodd"
          fill={p.is_ink ? "var(--gap)" : "transparent"}
          stroke="var(--edge)"
          strokeDasharray="4 3"
          vectorEffect="non-scaling-stroke"
          pointerEvents="all"
          className="cursor-pointer"
          data-patch={i}
          onClick={() => toggle(i)}
        />
      ))}
    </svg>
  );
}
