import clsx from "clsx";
import { memo, type ReactNode } from "react";
import type { MeasureView } from "../../api/generated/MeasureView";
import type { Unit } from "../../api/generated/Unit";
import { useInterface } from "../../state/interface";
import { Choice } from "../../ui/choice";
import { isSame } from "../../ui/is-same";
import { MeasureField } from "../../ui/measure-field";
import { Group } from "../../ui/panel";
import { useSteady } from "../../ui/use-steady";
import { chosenOf } from "./chosen-of";
import { printed } from "./heights";
import { MeasurePicture } from "./measure-picture";

const COLOURS: Record<string, string> = {
  Wall: "var(--wall)",
  Rim: "var(--wall)",
  Frame: "var(--wall)",
  Flange: "var(--flange)",
  Plate: "var(--flange)",
  Body: "var(--flange)",
  Backing: "var(--flange)",
  Lines: "var(--flange)",
  "Stamp lines": "var(--stamp)",
  Details: "var(--stamp)",
  Relief: "var(--stamp)",
  Lettering: "var(--stamp)",
  Top: "var(--stamp)",
};

const hasCorners = (form: number | string) => form === "rounded" || form === "square";

/** Measures that do nothing as long as another one is as it is; choices are told by their names. */
const IDLE: Record<string, (of: (name: string) => number | string) => boolean> = {
  "taper-down": (of) => of("taper-in") === 0,
  opening: (of) => of("back") === "open",
  "stamp-line": (of) => of("stamp-as") === "areas",
  "stamp-least": (of) => of("stamp-as") === "lines",
  bars: (of) => of("bar-width") === 0,
  "rim-height": (of) => of("rim-width") === 0,
  "frame-height": (of) => of("frame-width") === 0,
  "grip-height": (of) => of("grip") === "none",
  "grip-width": (of) => of("grip") === "none",
  "peg-clearance": (of) => of("grip") === "none",
  "magnet-across": (of) => of("magnet") !== "free",
  "magnet-high": (of) => of("magnet") !== "free",
  screw: (of) => of("screws") === "none",
  sink: (of) => of("screws") === "none",
  "back-depth": (of) => of("back") === "none",
  across: (of) => of("form") === "outline",
  // Forms that are as large as they are told know no border.
  border: (of) => of("across") !== "" && of("form") !== "" && of("form") !== "outline",
  pieces: (of) => of("across") !== "" && of("form") !== "" && of("form") !== "outline",
  "corner-hexagon": (of) => of("form") !== "hexagon",
  place: (of) => of("form") === "outline",
  "shift-x": (of) => of("form") === "outline",
  "shift-y": (of) => of("form") === "outline",
  turn: (of) => of("form") === "outline",
  "from-rim": (of) => of("form") === "outline",
  "relief-depth": (of) => of("relief") === "nothing",
  "relief-height": (of) => of("relief") === "nothing",
  outside: (of) => of("relief") === "nothing",
  corners: (of) => !hasCorners(of("form")),
  corner: (of) => !hasCorners(of("form")) || of("corners") === "own",
  "corner-upper-left": (of) => !hasCorners(of("form")) || of("corners") !== "own",
  "corner-upper-right": (of) => !hasCorners(of("form")) || of("corners") !== "own",
  "corner-lower-left": (of) => !hasCorners(of("form")) || of("corners") !== "own",
  "corner-lower-right": (of) => !hasCorners(of("form")) || of("corners") !== "own",
  "hole-at": (of) => of("hang") === "none",
  side: (of) => of("hole-at") === "middle",
  "hole-x": (of) => of("hang") === "none" || of("hole-at") !== "middle",
  "hole-y": (of) => of("hang") === "none" || of("hole-at") !== "middle",
  "hole-along": (of) => of("hang") === "none" || of("hole-at") !== "edge",
  "hole-out": (of) => of("hang") === "none" || of("hole-at") !== "edge",
  hole: (of) => of("hang") === "none",
  "hole-round": (of) => of("hang") === "none",
};

/** Measures by the part of the object they belong to, without those that do nothing now; of one part alone where it is named. */
export function MeasureList(p: {
  measures: readonly MeasureView[];
  unit: Unit;
  only?: string | undefined;
  /** As it is typed or chosen; rejects with why not. */
  onSet: (measure: MeasureView, value: string) => Promise<unknown>;
  onReset: (measure: MeasureView) => void;
  /** What stands beside a part's title. */
  groupNote?: (group: string) => ReactNode;
  /** What stands below a measure. */
  below?: (measure: MeasureView) => ReactNode;
  /** What stands below a part's measures. */
  foot?: (group: string) => ReactNode;
}) {
  const onSet = useSteady(p.onSet);
  const onReset = useSteady(p.onReset);
  const of = (name: string) => {
    const m = p.measures.find((m) => m.name === name);
    return m ? chosenOf(m) : "";
  };
  const groups = [...new Set(p.measures.map((m) => m.group))].filter((g) => (p.only ?? g) === g);
  return groups.map((g) => (
    <Group key={g} title={g} {...(COLOURS[g] ? { colour: COLOURS[g] } : {})} note={p.groupNote?.(g)}>
      {p.measures
        .filter((m) => m.group === g && !(IDLE[m.name]?.(of) ?? false))
        .map((m) => (
          <Pointed key={m.name} name={m.name}>
            <Measure measure={m} unit={p.unit} onSet={onSet} onReset={onReset} />
            {p.below?.(m)}
          </Pointed>
        ))}
      {p.foot?.(g)}
    </Group>
  ));
}

/** A measure in the list: pointed at here, it is marked on the drawings, and the other way round. */
function Pointed({ name, children }: { name: string; children: ReactNode }) {
  const isPointed = useInterface((s) => s.measure === name);
  const point = (measure: string | null) => useInterface.setState({ measure });
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: to be pointed at marks it only; what does something is inside
    <div
      data-measure={name}
      className={clsx("-mx-2 rounded-tile px-2", isPointed && "bg-sunk")}
      onPointerEnter={() => point(name)}
      onPointerLeave={() => point(null)}
      onFocus={() => point(name)}
      onBlur={() => point(null)}
    >
      {children}
    </div>
  );
}

interface MeasureProps {
  measure: MeasureView;
  unit: Unit;
  onSet: (measure: MeasureView, value: string) => Promise<unknown>;
  onReset: (measure: MeasureView) => void;
}

// Of thirty measures a hand moves one.
const Measure = memo(function Measure(p: MeasureProps) {
  const m = p.measure;
  if (m.options.length > 0) {
    return (
      <div className="flex items-center gap-2">
        <MeasurePicture picture={m.picture} />
        <div className="flex-1">
          <Choice
            label={m.label}
            meaning={m.meaning}
            value={m.options[m.value]?.name ?? ""}
            options={m.options}
            // What is refused is said elsewhere.
            onChoose={(name) => p.onSet(m, name).catch(() => undefined)}
          />
        </div>
      </div>
    );
  }
  return (
    <div className="flex items-start gap-2">
      <span className="pt-1.5">
        <MeasurePicture picture={m.picture} />
      </span>
      <div className="min-w-0 flex-1">
        <MeasureField
          label={m.label}
          meaning={m.meaning}
          value={m.value}
          unit={m.is_length ? p.unit : null}
          step={m.step}
          note={layersOf(m, p.unit)}
          onCommit={(text) => p.onSet(m, text)}
          onReset={m.value === m.default ? undefined : () => p.onReset(m)}
        />
      </div>
    </div>
  );
}, isSame);

function layersOf(m: MeasureView, unit: Unit): string | undefined {
  return m.layers === null || m.prints === null ? undefined : printed(m.value, m.layers, m.prints, unit);
}
