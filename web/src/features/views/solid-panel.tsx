import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import type { CupAsked } from "../../api/client";
import { meshQuery } from "../../api/mesh-query";
import { SOLID_EVERY_MS } from "../../api/use-preview";
import { SOLIDS } from "../../parts";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { rough } from "../../ui/length";
import { Item, Menu } from "../../ui/menu";
import { Panel } from "../../ui/panel";
import { PartOf, SettingUp } from "../../ui/part";
import { Tip } from "../../ui/tip";
import { useCalmed } from "../../ui/use-calmed";
import { useStill } from "../../ui/use-still";
import { WordSwitch } from "../../ui/word-switch";
import { useNamePress } from "./name-press";
import { SolidGuard } from "./solid-guard";
import { type Marked, type NamedView, type SolidHold, seenOf } from "./solid-props";
import { useInUse } from "./use-in-use";
import { UseNote } from "./use-note";

const VIEWS: { words: string; view: NamedView }[] = [
  { words: "As it stands", view: "stand" },
  { words: "From above", view: "top" },
  { words: "From below", view: "bottom" },
  { words: "From the front", view: "front" },
  { words: "From the right", view: "right" },
];

/** Where the arrow keys turn it to: right and up. */
const TURNS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** What there is to see, in words. */
function spoken({ result, design }: Bench): string {
  const s = result.solid;
  if (!s) return "Solid: there is none yet";
  const { unit } = design.document;
  const told = result.findings.filter((f) => !f.is_accepted && f.weight !== "note").length;
  const bodies = s.bodies === null ? "" : s.bodies === 1 ? "one piece, " : `${s.bodies} pieces, `;
  const findings = told === 0 ? "all well" : told === 1 ? "1 finding" : `${told} findings`;
  return `Solid: ${result.recipe}, ${s.size.map((v) => rough(v, unit)).join(" by ")} ${unit}, ${bodies}${findings}. Arrow keys turn it.`;
}

/** While the part that draws is on the way, the mesh comes, too. */
function Coming({ meshKey }: { meshKey: string }) {
  const cache = useQueryClient();
  useEffect(() => void cache.prefetchQuery(meshQuery(meshKey)), [cache, meshKey]);
  return <SettingUp />;
}

/** The solid with what its view can do. `marked` are places that are shown on it; it turns to the one that is looked at.
 * `canUse` offers the object in use. */
export function SolidPanel(p: { bench: Bench; marked?: Marked | null; canUse?: boolean }) {
  const { marked = null, canUse = false } = p;
  const bench = useStill(p.bench);
  const { result, isOld } = bench;
  const isDark = useInterface((s) => s.isDark);
  const [view, setView] = useState<{ name: NamedView | null; count: number }>({ name: null, count: 0 });
  const isUsed = useInterface((s) => s.isInUse);
  const { unit } = bench.design.document;
  const [cup, setCup] = useState<CupAsked>({});
  const use = useInUse(result.solid?.key, unit, canUse && isUsed, cup);
  const usual = use && use.upright !== null ? "front" : "stand";
  const [isLifted, setLifted] = useState(false);
  const [isClear, setClear] = useState(false);
  const [isCut, setCut] = useState(false);
  const [isMeasured, setMeasured] = useState(false);
  // Drawings follow the hand first: a solid takes ten times as long.
  const isDragging = useInterface((s) => s.held !== null);
  const calm = useCalmed(p.bench.result, isDragging ? SOLID_EVERY_MS : 0);
  const seen = useMemo(() => (calm.solid ? seenOf(calm, calm.solid) : null), [calm]);
  const name = view.name ?? usual;
  const count = view.count + (use ? 0.5 : 0);
  const asked = useMemo(() => ({ name, count }), [name, count]);
  const pictureName = [bench.design.document.name, ...(use ? [use.title] : [])].join(", ");
  const hold = useRef<SolidHold | null>(null);
  const named = useNamePress(result, unit, (e) => hold.current?.pick(e.clientX, e.clientY) ?? null);
  const toggles = [
    {
      words: ["Lift the tiers apart", "Put the tiers together"],
      icon: "lift",
      is: isLifted,
      set: setLifted,
      name: "Lift tiers apart",
    },
    {
      words: ["See through", "Make it solid"],
      icon: "glass",
      is: isClear,
      set: setClear,
      name: "See through",
    },
    { words: ["Cut it open along A–A", "Close it"], icon: "cut", is: isCut, set: setCut, name: "Cut open" },
    {
      words: ["Show its measures", "Hide its measures"],
      icon: "distance",
      is: isMeasured,
      set: setMeasured,
      name: "Measures",
    },
  ] as const;
  return (
    <Panel
      title={use ? "In use" : "Solid"}
      note="drag to turn, wheel to zoom"
      isOld={isOld}
      tools={
        <>
          {canUse && (
            <WordSwitch
              isOn={isUsed}
              title={isUsed ? "Show it as it is printed" : "Show what it does when it is used"}
              onClick={() => {
                useInterface.setState({ isInUse: !isUsed });
                setView((v) => ({ name: null, count: v.count + 1 }));
              }}
            >
              In use
            </WordSwitch>
          )}
          {toggles.map((t) => (
            <Tip key={t.name} words={t.is ? t.words[1] : t.words[0]}>
              <Button
                look="bare"
                aria-label={t.name}
                aria-pressed={t.is}
                onClick={() => t.set(!t.is)}
                className={t.is ? "text-glaze" : undefined}
              >
                <Icon name={t.icon} className="size-4.5" />
              </Button>
            </Tip>
          ))}
          <Menu
            trigger={
              <Button look="bare" aria-label="Views and picture">
                <Icon name="fit" className="size-4.5" />
              </Button>
            }
          >
            {VIEWS.map((v) => (
              <Item
                key={v.view}
                words={v.words}
                onPick={() => setView({ name: v.view, count: view.count + 1 })}
              />
            ))}
            <Item
              words="Picture as PNG"
              note="with ground"
              onPick={() => hold.current?.save(pictureName, false)}
            />
            <Item
              words="Picture as PNG"
              note="transparent"
              onPick={() => hold.current?.save(pictureName, true)}
            />
          </Menu>
        </>
      }
    >
      <div className="absolute inset-0 flex flex-col">
        {/* Laid over its room, so that the canvas shrinks with it. */}
        <div className="relative min-h-0 grow">
          <div
            className="absolute inset-0"
            role="application"
            aria-label={spoken(bench)}
            // biome-ignore lint/a11y/noNoninteractiveTabindex: arrow keys turn it
            tabIndex={0}
            {...named}
            onKeyDown={(e) => {
              const way = TURNS[e.key];
              if (!way || e.target !== e.currentTarget) return;
              e.preventDefault();
              const step = e.shiftKey ? 45 : 15;
              hold.current?.turn(way[0] * step, way[1] * step);
            }}
          >
            {seen ? (
              <SolidGuard>
                <PartOf
                  part={SOLIDS.design}
                  coming={<Coming meshKey={seen.meshKey} />}
                  given={{
                    ...seen,
                    isLifted,
                    isClear,
                    isCut,
                    isDark,
                    measures: isMeasured ? unit : null,
                    view: asked,
                    hold,
                    marked,
                    use,
                  }}
                />
              </SolidGuard>
            ) : (
              <p className="p-6 text-center text-sm text-soft">There is no solid yet.</p>
            )}
          </div>
        </div>
        {use && <UseNote use={use} unit={unit} onCup={setCup} />}
      </div>
    </Panel>
  );
}
