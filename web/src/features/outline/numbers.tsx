import { type ReactNode, useRef } from "react";
import type { Bench } from "../../api/bench";
import type { Change } from "../../api/generated/Change";
import type { Entry } from "../../api/generated/Entry";
import type { Use } from "../../api/generated/Use";
import { Button } from "../../ui/button";
import { MeasureField } from "../../ui/measure-field";
import { OneOf } from "../../ui/one-of";
import { LengthField, NumberField } from "../artwork/tools/tray";
import { FewerNodes } from "./fewer-nodes";
import { atNextEnd } from "./mirror";
import { PlaceFields } from "./place-fields";
import { WrittenText } from "./text-numbers";
import { UseMenu } from "./uses";

/** The numbers of an entry. Lengths may be typed with any unit. */
export function Numbers({
  bench,
  entry: { id, change },
  onNodes,
}: {
  bench: Bench;
  entry: Entry;
  /** Takes the nodes of a drawn line in hand. */
  onNodes: () => void;
}) {
  const unit = bench.design.document.unit;
  const half = useRef<Mirror | null>(null);
  const length = (name: string, label: string, value: number) => (
    <MeasureField
      key={name}
      label={label}
      value={value}
      unit={unit}
      step={0.5}
      onCommit={(typed) => bench.commit([{ kind: "set-change-length", id, name, value: typed }])}
    />
  );
  const set = (now: Change) => bench.change([{ kind: "set-change", id, change: now }]);
  const count = (label: string, value: number, min: number, max: number, change: (n: number) => void) => (
    <NumberField
      label={label}
      unit=""
      min={min}
      max={max}
      value={value}
      onChange={(v) => change(Math.round(Math.min(max, Math.max(min, v))))}
    />
  );
  const degrees = (c: Extract<Change, { degrees: number }>) => (
    <NumberField
      label="Turned by"
      unit="°"
      min={-360}
      max={360}
      value={c.degrees}
      onChange={(v) => set({ ...c, degrees: v })}
    />
  );
  const mm = bench.result.outline?.mm_per_px ?? 1;
  const place = (c: Extract<Change, { at: [number, number] }>) => (
    <PlaceFields bench={bench} at={c.at} most={500} onChange={(at) => set({ ...c, at })} />
  );
  const percent = (label: string, factor: number, onChange: (factor: number) => void) => (
    <NumberField
      label={label}
      unit="%"
      min={1}
      max={10000}
      value={factor * 100}
      onChange={(v) => onChange(Math.min(100, Math.max(0.01, v / 100)))}
    />
  );
  const use = (c: Extract<Change, { use: Use }>) => (
    <UseMenu use={c.use} name="what this makes" onChoose={(use) => set({ ...c, use })} />
  );
  const nodes = (count: number, more?: ReactNode) => (
    <div className="flex flex-wrap items-center gap-1 pb-1 text-xs">
      <Button className="px-1.5 text-xs" onClick={onNodes}>
        Edit its {count} nodes
      </Button>
      {more}
    </div>
  );
  const tick = (words: string, is: boolean, onChange: (on: boolean) => void) => (
    <label className="flex items-center gap-1 text-xs">
      <input type="checkbox" checked={is} onChange={(e) => onChange(e.target.checked)} />
      {words}
    </label>
  );
  switch (change.do) {
    case "rim":
    case "thicken":
    case "bridge":
      return length("width", "Width", change.width);
    case "smooth":
      return length("radius", "Radius", change.radius);
    case "fewer":
      return <FewerNodes bench={bench} id={id} change={change} field={length} />;
    case "cut":
      return (
        <>
          {length("gap", "Gap", change.gap)}
          {nodes(change.line.nodes.length)}
        </>
      );
    case "draw":
      return (
        <>
          {change.width !== null && length("width", "Width", change.width)}
          {nodes(
            change.line.nodes.length,
            <>
              {use(change)}
              {change.width !== null && change.line.is_closed && (
                <Button className="px-1 text-xs" onClick={() => set({ ...change, width: null })}>
                  Fill it
                </Button>
              )}
              {change.width === null && change.line.is_closed && (
                <Button className="px-1 text-xs" onClick={() => set({ ...change, width: 2 })}>
                  Only its line
                </Button>
              )}
            </>,
          )}
        </>
      );
    case "nodes":
      return nodes(change.lines.reduce((n, l) => n + l.nodes.length, 0));
    case "grow":
      return (
        <>
          {length("by", "By", change.by)}
          <div className="flex gap-1 pb-1">
            <OneOf all={CORNERS} now={change.corner} onChoose={(corner) => set({ ...change, corner })} />
          </div>
        </>
      );
    case "text":
      return (
        <WrittenText text={change.text} length={length} set={(text) => set({ ...change, text })}>
          {place(change)}
          {degrees(change)}
          {use(change)}
        </WrittenText>
      );
    case "paste":
      return (
        <div className={STACKED}>
          {place(change)}
          {degrees(change)}
          {percent("Scale", change.scale, (scale) => set({ ...change, scale }))}
        </div>
      );
    case "repeat":
      return (
        <div className="flex flex-wrap items-center gap-x-2 gap-y-1 pb-1">
          <Button className="px-1 text-xs" title="The nodes of one; the others follow" onClick={onNodes}>
            Nodes
          </Button>
          {count("Times", change.times, 2, 24, (times) => set({ ...change, times }))}
          <label className="flex items-center gap-1 text-xs">
            <input
              type="checkbox"
              checked={change.is_mirrored}
              onChange={(e) => set({ ...change, is_mirrored: e.target.checked })}
            />
            mirrored
          </label>
        </div>
      );
    case "mirror":
      return (
        <div className="flex flex-wrap items-center gap-x-2 gap-y-1 pb-1">
          {degrees(change)}
          <Button
            className="px-1 text-xs"
            title={`Keeps the other ${change.is_quarter ? "quarter" : "half"}`}
            onClick={() =>
              set({ ...change, degrees: (change.degrees + (change.is_quarter ? 90 : 180)) % 360 })
            }
          >
            Other {change.is_quarter ? "quarter" : "half"}
          </Button>
          <Button
            className="px-1 text-xs"
            title={`Makes a drawn ${change.is_quarter ? "quarter" : "half"} whole: mirrors across its own ${change.is_quarter ? "corner; again for the next corner" : "edge; again for the next edge"}`}
            onClick={() => set(atNextEnd(change))}
          >
            {change.is_quarter ? "Next corner" : "Next edge"}
          </Button>
          <Button className="px-1 text-xs" title="The nodes of one side; the other follows" onClick={onNodes}>
            Nodes
          </Button>
          {tick("quarter", change.is_quarter, (is_quarter) => {
            // A drawn quarter is made whole at a corner of its own; unticked, the line is where it was.
            if (is_quarter) half.current = change;
            const back = half.current ? { ...change, ...lineOf(half.current) } : change;
            set(is_quarter ? atNextEnd({ ...change, is_quarter, degrees: 270 }) : { ...back, is_quarter });
          })}
        </div>
      );
    case "place": {
      const k = mm;
      return (
        <div className={STACKED}>
          <LengthField
            label="To the right"
            unit={bench.design.document.unit}
            min={-500}
            max={500}
            value={change.by[0] * k}
            onChange={(v) => set({ ...change, by: [v / k, change.by[1]] })}
          />
          <LengthField
            label="Up"
            unit={bench.design.document.unit}
            min={-500}
            max={500}
            value={-change.by[1] * k}
            onChange={(v) => set({ ...change, by: [change.by[0], -v / k] })}
          />
          {degrees(change)}
          {percent("Scale", change.scale, (scale) => set({ ...change, scale }))}
          {percent("Stretch", change.stretch, (stretch) => set({ ...change, stretch }))}
          {tick("flipped", change.flip, (flip) => set({ ...change, flip }))}
          {tick("as a copy", change.is_copy, (is_copy) => set({ ...change, is_copy }))}
        </div>
      );
    }
    case "shape": {
      const s = change.shape;
      return (
        <>
          {length("width", "Width", s.width)}
          {"height" in s && length("height", "Height", s.height)}
          {"corner" in s && length("corner", "Corner radius", s.corner)}
          {"inner" in s && length("inner", "Inside", s.inner)}
          {"hole" in s && length("hole", "Hole", s.hole)}
          {"foot" in s && length("foot", "Foot", s.foot)}
          <div className={STACKED}>
            {place(change)}
            {"sides" in s &&
              count("Sides", s.sides, 3, 60, (sides) => set({ ...change, shape: { ...s, sides } }))}
            {"points" in s &&
              count("Points", s.points, 3, 60, (points) => set({ ...change, shape: { ...s, points } }))}
            {degrees(change)}
            {use(change)}
          </div>
        </>
      );
    }
    default:
      return null;
  }
}

type Mirror = Extract<Change, { do: "mirror" }>;

const lineOf = ({ through, degrees }: Mirror) => ({ through, degrees });

/** Fields below each other, labels on the left and values on the right. */
const STACKED = "grid gap-1 pb-1";

const CORNERS = ["round", "mitred", "square"] as const;
