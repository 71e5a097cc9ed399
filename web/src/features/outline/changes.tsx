import type { Bench } from "../../api/bench";
import type { Change } from "../../api/generated/Change";
import type { OutlineEdit } from "../../api/generated/OutlineEdit";
import type { PatchView } from "../../api/generated/PatchView";
import type { Shape } from "../../api/generated/Shape";
import type { Spot } from "../../api/generated/Spot";
import { Button } from "../../ui/button";
import { MeasureField } from "../../ui/measure-field";
import { Group } from "../../ui/panel";
import { NumberField } from "../artwork/tools/tray";

const spot = (p: PatchView): Spot => ({ at: p.at, is_ink: p.is_ink });

/** What can be done to the patches that are chosen. */
function actions(on: Spot[], middle: [number, number]): { words: string; least: number; change: Change }[] {
  return [
    { words: "Join", least: 2, change: { do: "join", on } },
    { words: "Take away", least: 2, change: { do: "take-away", from: on.slice(0, 1), what: on.slice(1) } },
    { words: "Common", least: 2, change: { do: "common", on } },
    { words: "Fill holes", least: 1, change: { do: "fill-holes", on } },
    { words: "Rim", least: 1, change: { do: "rim", on, width: 2 } },
    { words: "Grow", least: 1, change: { do: "grow", on, by: 1 } },
    { words: "Move", least: 1, change: { do: "place", on, by: [0, 0], degrees: 0, scale: 1 } },
    { words: "Mirror", least: 1, change: { do: "mirror", on, through: middle, degrees: 90 } },
    {
      words: "Repeat",
      least: 1,
      change: { do: "repeat", on, centre: middle, times: 6, is_mirrored: false },
    },
  ];
}

const SHAPES: [string, Shape][] = [
  ["Circle", { form: "ellipse", width: 20, height: 20 }],
  ["Rectangle", { form: "rectangle", width: 30, height: 20, corner: 3 }],
  ["Polygon", { form: "polygon", sides: 6, width: 20 }],
  ["Star", { form: "star", points: 5, width: 20, inner: 9 }],
  ["Ring", { form: "ring", width: 8, hole: 4 }],
];

const NAMES: Record<Change["do"], string> = {
  join: "Join",
  "take-away": "Take away",
  common: "Keep what is common",
  "fill-holes": "Fill holes",
  rim: "Rim",
  grow: "Grow",
  place: "Move, turn, scale",
  mirror: "Mirror a half",
  repeat: "Repeat",
  shape: "Shape",
};

/** The ordered list of what is done to the outline: each can be changed, moved, switched off and taken out later. */
export function Changes(p: { bench: Bench; chosen: readonly number[]; setChosen: (now: number[]) => void }) {
  const { bench, chosen } = p;
  const { result, design } = bench;
  const patches = result.patches;
  const list = design.document.changes;
  const o = result.outline;
  const middle: [number, number] = o ? [o.origin[0], o.origin[1]] : [0, 0];
  const on = chosen.flatMap((i) => patches[i] ?? []).map(spot);
  const add = (change: Change) => bench.change([{ kind: "add-change", change }]);
  const like = patches[chosen[0] ?? -1];
  const choose = (is: (q: PatchView) => boolean) =>
    p.setChosen(patches.flatMap((q, i) => (is(q) ? [i] : [])));
  return (
    <Group title="Changes" note={on.length > 0 ? `${on.length} chosen` : "choose patches first"}>
      <div className="grid grid-cols-3 gap-1">
        {actions(on, middle).map((a) => (
          <Button
            key={a.words}
            className="px-1 text-xs"
            disabled={on.length < a.least}
            title={a.least > 1 ? "For two patches or more; the first one stays" : undefined}
            onClick={() => add(a.change)}
          >
            {a.words}
          </Button>
        ))}
      </div>
      <div className="flex gap-1 pt-1">
        <select
          aria-label="Add a shape"
          value=""
          disabled={!o}
          onChange={(e) => {
            const shape = SHAPES.find(([words]) => words === e.target.value)?.[1];
            if (shape) add({ do: "shape", shape, at: middle, degrees: 0, use: "detail" });
          }}
          className="min-w-0 flex-1 rounded-tile border border-edge bg-field px-1 py-1 text-xs font-semibold"
        >
          <option value="">Add a shape…</option>
          {SHAPES.map(([words]) => (
            <option key={words}>{words}</option>
          ))}
        </select>
        <Button
          className="px-1.5 text-xs"
          disabled={!like}
          title="All of this colour and kind"
          onClick={() =>
            like && choose((q) => q.is_ink === like.is_ink && String(q.colour) === String(like.colour))
          }
        >
          All like it
        </Button>
        <Button className="px-1.5 text-xs" disabled={on.length === 0} onClick={() => p.setChosen([])}>
          None
        </Button>
      </div>
      <ol className="pt-1.5" aria-label="Changes of the outline">
        {list.map((e, i) => (
          <Entry key={e.id} bench={bench} entry={e} place={i} last={list.length - 1} />
        ))}
      </ol>
    </Group>
  );
}

function Entry({
  bench,
  entry,
  place,
  last,
}: {
  bench: Bench;
  entry: OutlineEdit;
  place: number;
  last: number;
}) {
  const { id, is_on, change } = entry;
  const name = change.do === "shape" ? formName(change.shape) : NAMES[change.do];
  const order = (to: number) => bench.change([{ kind: "order-change", id, to }]);
  return (
    <li
      className="mt-1 rounded-tile border border-line px-2 py-1"
      data-change={change.do}
      data-off={!is_on || undefined}
    >
      <div className="flex items-center gap-1 text-sm">
        <label className="flex min-w-0 flex-1 items-center gap-2 font-semibold">
          <input
            type="checkbox"
            checked={is_on}
            onChange={(e) => bench.change([{ kind: "switch-change", id, is_on: e.target.checked }])}
            className="accent-glaze"
          />
          <span className={is_on ? "truncate" : "truncate text-soft line-through"}>
            {place + 1} {name}
          </span>
        </label>
        <Button
          className="size-6 px-0"
          aria-label={`${name} earlier`}
          disabled={place === 0}
          onClick={() => order(place - 1)}
        >
          ↑
        </Button>
        <Button
          className="size-6 px-0"
          aria-label={`${name} later`}
          disabled={place === last}
          onClick={() => order(place + 1)}
        >
          ↓
        </Button>
        <Button
          className="size-6 px-0"
          aria-label={`Remove ${name}`}
          onClick={() => bench.change([{ kind: "remove-change", id }])}
        >
          ×
        </Button>
      </div>
      <Numbers bench={bench} entry={entry} />
    </li>
  );
}

const formName = (s: Shape) => (s.form === "ellipse" ? "Circle" : s.form[0]?.toUpperCase() + s.form.slice(1));

/** The numbers of an entry. Lengths may be typed with any unit. */
function Numbers({ bench, entry: { id, change } }: { bench: Bench; entry: OutlineEdit }) {
  const unit = bench.design.document.unit;
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
  switch (change.do) {
    case "rim":
      return length("width", "Width", change.width);
    case "grow":
      return length("by", "By", change.by);
    case "repeat":
      return (
        <div className="flex items-center gap-3 pb-1">
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
        <div className="flex items-center gap-3 pb-1">
          {degrees(change)}
          <Button
            className="px-1 text-xs"
            onClick={() => set({ ...change, degrees: (change.degrees + 180) % 360 })}
          >
            Other half
          </Button>
        </div>
      );
    case "place": {
      const k = bench.result.outline?.mm_per_px ?? 1;
      return (
        <div className="grid grid-cols-2 gap-1 pb-1">
          <NumberField
            label="right"
            unit="mm"
            min={-500}
            max={500}
            value={change.by[0] * k}
            onChange={(v) => set({ ...change, by: [v / k, change.by[1]] })}
          />
          <NumberField
            label="up"
            unit="mm"
            min={-500}
            max={500}
            value={-change.by[1] * k}
            onChange={(v) => set({ ...change, by: [change.by[0], -v / k] })}
          />
          {degrees(change)}
          <NumberField
            label="Scale"
            unit="%"
            min={1}
            max={10000}
            value={change.scale * 100}
            onChange={(v) => set({ ...change, scale: Math.min(100, Math.max(0.01, v / 100)) })}
          />
        </div>
      );
    }
    case "shape": {
      const s = change.shape;
      const [x, y] = bench.result.outline?.origin ?? [0, 0];
      const k = bench.result.outline?.mm_per_px ?? 1;
      return (
        <>
          {length("width", "Width", s.width)}
          {"height" in s && length("height", "Height", s.height)}
          {"corner" in s && length("corner", "Corner radius", s.corner)}
          {"inner" in s && length("inner", "Inside", s.inner)}
          {"hole" in s && length("hole", "Hole", s.hole)}
          <div className="grid grid-cols-2 gap-1 pb-1">
            <NumberField
              label="x"
              unit="mm"
              min={-500}
              max={500}
              value={(change.at[0] - x) * k}
              onChange={(v) => set({ ...change, at: [x + v / k, change.at[1]] })}
            />
            <NumberField
              label="y"
              unit="mm"
              min={-500}
              max={500}
              value={(y - change.at[1]) * k}
              onChange={(v) => set({ ...change, at: [change.at[0], y - v / k] })}
            />
            {"sides" in s &&
              count("Sides", s.sides, 3, 60, (sides) => set({ ...change, shape: { ...s, sides } }))}
            {"points" in s &&
              count("Points", s.points, 3, 60, (points) => set({ ...change, shape: { ...s, points } }))}
            {degrees(change)}
            <Button
              className="px-1 text-xs"
              onClick={() => set({ ...change, use: change.use === "edge" ? "detail" : "edge" })}
            >
              Is {change.use === "edge" ? "edge" : "a detail"}
            </Button>
          </div>
        </>
      );
    }
    default:
      return null;
  }
}
