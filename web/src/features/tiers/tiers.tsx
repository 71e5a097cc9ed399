import { useState } from "react";
import type { Bench } from "../../api/bench";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { Item, Menu } from "../../ui/menu";
import { Card } from "../../ui/panel";
import { ProblemNote } from "../../ui/problem-note";
import { useStill } from "../../ui/use-still";
import { Views } from "../../ui/views";
import { PlanAndSection } from "../views/plan-and-section";
import { SolidPanel } from "../views/solid-panel";
import { HoleHandle } from "./hole-handle";
import { Houses } from "./houses";
import { Measures } from "./measures";
import { PlaceHandle } from "./place-handle";
import { PutAside } from "./put-aside";
import { RecipePicker } from "./recipe-picker";
import { StackList } from "./stack";
import { BarDrawing, barActions, TieBars } from "./tie-bars";
import { useAfterSolid } from "./use-after-solid";

/** The outline becomes an object: plan, the section straight under it, the solid, and the measures. */
export function Tiers({ bench }: { bench: Bench }) {
  const beside = useAfterSolid(bench);
  return (
    <Views names={["Drawings", "Solid", "Measures"]} columns="grid-cols-[minmax(0,1fr)_minmax(0,1fr)_316px]">
      <Drawings bench={beside} />
      <SolidPanel bench={bench} />
      <MeasureCard bench={beside} />
    </Views>
  );
}

function MeasureCard(p: { bench: Bench }) {
  // Most of what is on the page is in it.
  const bench = useStill(p.bench);
  return (
    <Card title="Measures">
      {bench.result.problem && <ProblemNote problem={bench.result.problem} />}
      <div className="pb-3">
        <RecipePicker bench={bench} />
        <div className="pt-1.5">
          <Houses bench={bench} />
        </div>
        <PutAside bench={bench} />
      </div>
      <StackList bench={bench} />
      <Measures bench={bench} />
    </Card>
  );
}

function Drawings({ bench }: { bench: Bench }) {
  const flip = useInterface((s) => s.side) === "tool" ? -1 : 1;
  const still = useStill(bench);
  const bars = barActions(still);
  const [isDrawing, setDrawing] = useState(false);
  const hasBars = still.result.measures.some((m) => m.name === "bar-width" && m.value > 0);
  return (
    <PlanAndSection
      bench={bench}
      tools={
        hasBars && (
          <Menu
            trigger={
              <Button look="bare" className="w-auto px-2 text-xs" aria-label="Tie bars">
                Bars <Icon name="down" className="size-3.5" />
              </Button>
            }
          >
            <Item words="Draw a tie bar" note="from anywhere to anywhere" onPick={() => setDrawing(true)} />
            <Item words="A bar straight through" note="along A–A" onPick={bars.through} />
            <Item words="Find bars again" why={!bars.isOwn && "they are as found"} onPick={bars.again} />
          </Menu>
        )
      }
      over={(k) => (
        <>
          <TieBars bench={still} k={k} flip={flip} />
          <PlaceHandle bench={still} k={k} flip={flip} />
          <HoleHandle bench={still} k={k} flip={flip} />
          {isDrawing && <BarDrawing bench={still} onDone={() => setDrawing(false)} />}
        </>
      )}
    />
  );
}
