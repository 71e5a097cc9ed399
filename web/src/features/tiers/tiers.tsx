import { lazy, Suspense, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { MeasureView } from "../../api/generated/MeasureView";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { withUnit } from "../../ui/length";
import { MeasureField } from "../../ui/measure-field";
import { Card, Group, Panel } from "../../ui/panel";
import { ProblemNote } from "../../ui/problem-note";
import { Tip } from "../../ui/tip";
import { fitScale, useExtent } from "../views/frame";
import { Plan, planBox } from "../views/plan";
import { Section } from "../views/section";
import { SideSwitch } from "../views/side-switch";

const Solid = lazy(() => import("../views/solid"));

const GROUP_COLOURS: Record<string, string> = {
  Wall: "var(--wall)",
  Flange: "var(--flange)",
  "Stamp lines": "var(--stamp)",
};
const HEADER = 36;
const GROUT = 6;
/** Pixels that plan and section need above and below what they show, for dimensions. */
const PLAN_ROOM = 104;
const SECTION_ROOM = 66;
/** A nozzle of 0.4 mm prints lines of about that width. */
const LINE_MM = 0.4;

/** The outline becomes an object: plan, the section straight under it, the solid, and the measures. */
export function Tiers({ bench }: { bench: Bench }) {
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_minmax(0,1fr)_300px] gap-1.5">
      <Drawings bench={bench} />
      <SolidPanel bench={bench} />
      <Card title="Measures">
        {bench.result.problem && <ProblemNote problem={bench.result.problem} />}
        <MeasureGroups bench={bench} />
      </Card>
    </div>
  );
}

function Drawings({ bench }: { bench: Bench }) {
  const { result, design, isOld } = bench;
  const side = useInterface((s) => s.side);
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  const isDragging = useInterface((s) => s.isDragging);
  const box = planBox(result);
  const top = Math.max(8, ...result.section.map((c) => c.z[1]));
  // One scale for both: the section is what a drawing would project straight down from the plan. It holds still
  // while a height is dragged.
  const both = { width: box.width, height: box.height + top };
  const room = { width: extent.width, height: extent.height - 2 * HEADER - GROUT - PLAN_ROOM - SECTION_ROOM };
  const fresh = Math.min(fitScale(both, room, 0), fitScale(box, extent, 48));
  const held = useRef(fresh);
  if (!isDragging) held.current = fresh;
  const scale = held.current;
  const section = Math.min(extent.height * 0.6, Math.max(104, top * scale + SECTION_ROOM));
  const y = useInterface((s) => s.section);
  const where = y === 0 ? "across the middle" : `${Math.abs(y)} mm ${y > 0 ? "above" : "below"} the middle`;
  const words = side === "cookie" ? "as the cookie reads" : "the tool as printed, mirrored";
  return (
    <div
      ref={setElement}
      className="grid min-h-0 gap-1.5"
      style={{ gridTemplateRows: `minmax(0,1fr) ${section + HEADER}px` }}
    >
      <Panel title="Plan" note={words} tools={<SideSwitch />} isOld={isOld}>
        <Plan result={result} unit={design.document.unit} side={side} scale={scale} onCut={bench.cut} />
      </Panel>
      <Panel title="Section" note={`A–A, ${where} · ${words}`} isOld={isOld}>
        <Section bench={bench} side={side} scale={scale} />
      </Panel>
    </div>
  );
}

function SolidPanel({ bench }: { bench: Bench }) {
  const { result, isOld } = bench;
  const isDark = useInterface((s) => s.isDark);
  const [resets, setResets] = useState(0);
  const [isLifted, setLifted] = useState(false);
  return (
    <Panel
      title="Solid"
      note="the tool · drag to turn, wheel to zoom"
      isOld={isOld}
      tools={
        <>
          <Tip words={isLifted ? "Put the tiers together" : "Lift the tiers apart"}>
            <Button
              look="bare"
              aria-label="Lift tiers apart"
              aria-pressed={isLifted}
              onClick={() => setLifted(!isLifted)}
            >
              <Icon name="lift" className="size-4.5" />
            </Button>
          </Tip>
          <Tip words="The first view again">
            <Button look="bare" aria-label="Reset the view" onClick={() => setResets(resets + 1)}>
              <Icon name="fit" className="size-4.5" />
            </Button>
          </Tip>
        </>
      }
    >
      <div className="absolute inset-0">
        {result.solid ? (
          <Suspense fallback={<p className="p-4 text-sm text-soft">Setting up the view…</p>}>
            <Solid
              meshKey={result.solid.key}
              size={result.solid.size}
              isLifted={isLifted}
              isDark={isDark}
              resets={resets}
            />
          </Suspense>
        ) : (
          <p className="p-6 text-center text-sm text-soft">There is no solid yet.</p>
        )}
      </div>
    </Panel>
  );
}

function MeasureGroups({ bench }: { bench: Bench }) {
  const { result, design } = bench;
  const groups = [...new Set(result.measures.map((m) => m.group))];
  const hasStamp = result.tiers.some((t) => t.role === "stamp");
  return (
    <>
      <div className="pb-3">
        <p className="text-xs text-soft">Recipe</p>
        <p className="font-display text-lg font-semibold">Cutter</p>
        <p className="text-xs text-soft">Prints flange down, wall up, without supports.</p>
      </div>
      {groups.map((g) => (
        <Group
          key={g}
          title={g}
          {...(GROUP_COLOURS[g] ? { colour: GROUP_COLOURS[g] } : {})}
          note={
            g === "Wall"
              ? linesOf(result.measures)
              : g === "Stamp lines" && !hasStamp
                ? "no details kept"
                : undefined
          }
        >
          {result.measures
            .filter((m) => m.group === g)
            .map((m) => (
              <MeasureField
                key={m.name}
                label={m.label}
                meaning={m.meaning}
                value={m.value}
                unit={design.document.unit}
                step={m.step}
                note={layersOf(m)}
                onCommit={(value) => bench.commit([{ kind: "set-measure", name: m.name, value }])}
                onReset={
                  m.value === m.default
                    ? undefined
                    : () => bench.change([{ kind: "reset-measure", name: m.name }])
                }
              />
            ))}
        </Group>
      ))}
    </>
  );
}

/** A typed height is kept and shows what will print. */
function layersOf(m: MeasureView): string | undefined {
  if (m.layers === null || m.prints === null) return undefined;
  const prints = Math.abs(m.prints - m.value) > 1e-6 ? `, ${withUnit(m.prints, "mm", 1)}` : "";
  return `${m.layers} layers${prints}`;
}

function linesOf(measures: MeasureView[]): string {
  const thickness = measures.find((m) => m.name === "wall-thickness")?.value ?? 0;
  const lines = thickness / LINE_MM;
  const isWhole = Math.abs(lines - Math.round(lines)) < 0.02;
  return `${isWhole ? "" : "about "}${Math.max(1, Math.round(lines))} lines of ${LINE_MM}`;
}
