import { type ReactNode, useState } from "react";
import type { Bench } from "../../api/bench";
import { STRETCHES, useInterface } from "../../state/interface";
import { withUnit } from "../../ui/length";
import { Panel } from "../../ui/panel";
import { useStill } from "../../ui/use-still";
import { WordSwitch } from "../../ui/word-switch";
import { FilamentSwitch } from "./filament-switch";
import { fitScale, useExtent } from "./frame";
import { keyOf, useNamePress } from "./name-press";
import { Plan, type PlanProps, planBox } from "./plan";
import { Section, sectionTop } from "./section";
import { SideSwitch } from "./side-switch";
import { sideWords } from "./side-words";

const HEADER = 36;
const GROUT = 6;
/** Pixels that plan and section need above and below what they show, for dimensions. */
const PLAN_ROOM = 104;
const SECTION_ROOM = 66;
/** Steps by which the section takes more room while a height is dragged, pixels. */
const ROOM_STEP = 48;
/** Below this many pixels plan and section do not fit one above the other. */
const LOW = 360;

/** The plan, and the section straight under it. */
export function PlanAndSection({
  bench,
  tools,
  isReading = false,
  marks,
  ...plan
}: {
  bench: Bench;
  /** Further tools of the plan. */
  tools?: ReactNode;
  /** The section is looked at only: nothing is moved in it. */
  isReading?: boolean;
  /** What is drawn over the section; `x` and `y` turn millimetres along the line and above the bed into pixels. */
  marks?: ((x: (mm: number) => number, y: (mm: number) => number) => ReactNode) | undefined;
} & Pick<PlanProps, "over" | "finding" | "shown" | "place">) {
  const { result, design, isOld } = bench;
  const side = useInterface((s) => s.side);
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  const isDragging = useInterface((s) => s.held !== null);
  const box = planBox(result);
  const stretch = useInterface((s) => s.stretch);
  // As high as it is drawn.
  const top = sectionTop(bench) * stretch;
  // One scale for both: the section is what a drawing would project straight down from the plan. It holds still
  // while a height is dragged.
  const both = { width: box.width, height: box.height + top };
  // Where there is no height for both, the section lies beside the plan.
  const isLow = extent.height < LOW && extent.width > extent.height;
  const half = { width: (extent.width - GROUT) / 2, height: extent.height - HEADER - PLAN_ROOM / 2 };
  const room = { width: extent.width, height: extent.height - 2 * HEADER - GROUT - PLAN_ROOM - SECTION_ROOM };
  const fresh = isLow
    ? fitScale(box, half, 24)
    : Math.min(fitScale(both, room, 0), fitScale(box, extent, 48));
  const [held, setHeld] = useState(fresh);
  if (!isDragging && held !== fresh) setHeld(fresh);
  const scale = isDragging ? held : fresh;
  // The plan stays where it is, too: drawn elsewhere, it would be painted anew. Only a section that needs more room takes it, by steps.
  const high = Math.max(104, top * scale + SECTION_ROOM);
  const [heldHigh, setHeldHigh] = useState(high);
  if (!isDragging && heldHigh !== high) setHeldHigh(high);
  else if (heldHigh < high) setHeldHigh(Math.ceil(high / ROOM_STEP) * ROOM_STEP);
  const section = Math.min(extent.height * 0.6, heldHigh);
  const y = useInterface((s) => s.section);
  const turned = useInterface((s) => s.turned);
  const where =
    y === 0
      ? "across the middle"
      : `${withUnit(Math.abs(y), design.document.unit)} ${y > 0 ? "above" : "below"} the middle`;
  const still = useStill(result);
  const words = sideWords(still, side);
  const named = useNamePress(still, design.document.unit, keyOf);
  return (
    <div
      ref={setElement}
      {...named}
      className="grid min-h-0 gap-1.5"
      style={
        isLow
          ? { gridTemplateColumns: "minmax(0,1fr) minmax(0,1fr)" }
          : { gridTemplateRows: `minmax(0,1fr) ${section + HEADER}px` }
      }
    >
      <Panel
        title="Plan"
        note={words}
        isOld={isOld}
        tools={
          <>
            {tools}
            <FilamentSwitch result={still} />
            <SideSwitch result={still} />
          </>
        }
      >
        <Plan
          result={result}
          unit={design.document.unit}
          side={side}
          scale={scale}
          onCut={bench.cut}
          {...plan}
        />
      </Panel>
      <Panel
        title="Section"
        note={`A–A, ${where}${turned === 0 ? "" : `, turned by ${turned}°`} · ${words}`}
        isOld={isOld}
        tools={
          <WordSwitch
            isOn={stretch > 1}
            title="Draw heights once, twice or four times as high as they are"
            aria-label={`Heights ${stretch} times`}
            onClick={() => {
              const next = STRETCHES[(STRETCHES.indexOf(stretch) + 1) % STRETCHES.length];
              useInterface.setState({ stretch: next ?? 1 });
            }}
          >
            Heights {stretch}×
          </WordSwitch>
        }
      >
        <Section bench={bench} side={side} scale={scale} isReading={isReading} marks={marks} />
      </Panel>
    </div>
  );
}
