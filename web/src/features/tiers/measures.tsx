import type { Bench } from "../../api/bench";
import type { MeasureView } from "../../api/generated/MeasureView";
import type { Unit } from "../../api/generated/Unit";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { MeasureField } from "../../ui/measure-field";
import { Group } from "../../ui/panel";
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

/** The measures of the recipe, by the part of the object they belong to; of one part alone where it is named. */
export function Measures({ bench, only }: { bench: Bench; only?: string }) {
  const { result } = bench;
  const groups = [...new Set(result.measures.map((m) => m.group))].filter((g) => (only ?? g) === g);
  const of = (name: string) => {
    const m = result.measures.find((m) => m.name === name);
    return m ? (m.options[m.value]?.name ?? m.value) : "";
  };
  const isIdle = (m: MeasureView) => IDLE[m.name]?.(of) ?? false;
  const hasStamp = result.tiers.some((t) => t.role === "stamp");
  return (
    <>
      {groups.map((g) => (
        <Group
          key={g}
          title={g}
          {...(COLOURS[g] ? { colour: COLOURS[g] } : {})}
          note={
            g === "Wall"
              ? linesOf(Number(of("wall-thickness")), result.line)
              : g === "Stamp lines" && !hasStamp
                ? "no details kept"
                : undefined
          }
        >
          {result.measures
            .filter((m) => m.group === g && !isIdle(m))
            .map((m) => (
              <Measure key={m.name} bench={bench} measure={m} />
            ))}
          {g === "Place" && result.fit !== null && result.outline && (
            <FitInside bench={bench} fit={result.fit} scale={result.outline.mm_per_px} />
          )}
        </Group>
      ))}
    </>
  );
}

/** Makes the drawing as large as its plate allows. */
function FitInside({ bench, fit, scale }: { bench: Bench; fit: number; scale: number }) {
  const isFitted = Math.abs(fit - 1) < 0.002;
  return (
    <div className="flex justify-end pt-1">
      <Button
        className="text-xs"
        disabled={isFitted}
        title={
          isFitted
            ? "It fits as large as it can"
            : `Makes the drawing ${(fit * 100).toFixed(0)} % of its size`
        }
        onClick={() => bench.change([{ kind: "set-scale", mm_per_px: scale * fit }])}
      >
        Fit the drawing inside
      </Button>
    </div>
  );
}

function Measure({ bench, measure: m }: { bench: Bench; measure: MeasureView }) {
  const set = (value: string) => [{ kind: "set-measure" as const, name: m.name, value }];
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
            onChoose={(name) => bench.change(set(name))}
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
          unit={m.is_length ? bench.design.document.unit : null}
          step={m.step}
          note={layersOf(m, bench.design.document.unit)}
          onCommit={(value) => bench.commit(set(value))}
          onReset={
            m.value === m.default ? undefined : () => bench.change([{ kind: "reset-measure", name: m.name }])
          }
        />
      </div>
    </div>
  );
}

function layersOf(m: MeasureView, unit: Unit): string | undefined {
  return m.layers === null || m.prints === null ? undefined : printed(m.value, m.layers, m.prints, unit);
}

function linesOf(thickness: number, line: number): string {
  const lines = thickness / line;
  const isWhole = Math.abs(lines - Math.round(lines)) < 0.02;
  return `${isWhole ? "" : "about "}${Math.max(1, Math.round(lines))} lines of ${line}`;
}
