import { useEffect, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import { api } from "../../api/client";
import type { Change } from "../../api/generated/Change";
import type { LineUpWith } from "../../api/generated/LineUpWith";
import type { PatchView } from "../../api/generated/PatchView";
import type { Shape } from "../../api/generated/Shape";
import type { Side } from "../../api/generated/Side";
import type { Spot } from "../../api/generated/Spot";
import type { Thinnest } from "../../api/generated/Thinnest";
import { useNotices } from "../../state/notices";
import { Button } from "../../ui/button";
import { rough, withUnit } from "../../ui/length";
import { Group } from "../../ui/panel";
import { PatchFilament } from "./patch-filament";
import { doubled, placed, withPins } from "./tools/tool";

/** Patches that were copied, for any design in this browser. */
const CLIPBOARD = "kachel-patches";

type Action = { words: string; title?: string; least: number; change: Change };

/** What can be done to the patches that are chosen. */
function actionsFor(on: Spot[], middle: [number, number], mm: number): Action[] {
  return [
    { words: "Join", least: 2, change: { do: "join", on } },
    { words: "Take away", least: 2, change: { do: "take-away", from: on.slice(0, 1), what: on.slice(1) } },
    { words: "Common", least: 2, change: { do: "common", on } },
    {
      words: "Bridge",
      title: "Bars at the nearest places",
      least: 2,
      change: { do: "bridge", on, width: 2 },
    },
    { words: "Fill holes", least: 1, change: { do: "fill-holes", on } },
    { words: "Rim", least: 1, change: { do: "rim", on, width: 2 } },
    { words: "Grow", least: 1, change: { do: "grow", on, by: 1, corner: "round" } },
    {
      words: "Thicken",
      title: "Only what is thinner than a width",
      least: 1,
      change: { do: "thicken", on, width: 1.2 },
    },
    {
      words: "Smooth",
      title: "Small dents and bumps go, corners stay",
      least: 1,
      change: { do: "smooth", on, radius: 0.5 },
    },
    { words: "Fewer nodes", least: 1, change: { do: "fewer", on, deviation: 0.05 } },
    { words: "Move", title: "Move, turn, scale by numbers", least: 1, change: placed(on) },
    { words: "Flip", least: 1, change: placed(on, { flip: true }) },
    {
      words: "Double",
      title: "A copy beside it (Ctrl D)",
      least: 1,
      change: doubled(on, mm),
    },
    {
      words: "Mirror",
      title: "A half or a quarter completed",
      least: 1,
      change: { do: "mirror", on, through: middle, degrees: 90, is_quarter: false },
    },
    { words: "Repeat", least: 1, change: { do: "repeat", on, centre: middle, times: 6, is_mirrored: false } },
    {
      words: "To the middle",
      title: "Centre on the object",
      least: 1,
      change: { do: "line-up", on, across: "middle", down: "middle", with: "object" },
    },
  ];
}

const SHAPES: [string, Shape][] = [
  ["Circle", { form: "ellipse", width: 20, height: 20 }],
  ["Rectangle", { form: "rectangle", width: 30, height: 20, corner: 3 }],
  ["Polygon", { form: "polygon", sides: 6, width: 20 }],
  ["Star", { form: "star", points: 5, width: 20, inner: 9 }],
  ["Ring", { form: "ring", width: 8, hole: 4 }],
  ["Eyelet", { form: "eyelet", width: 9, hole: 4, foot: 7 }],
];

const LIKE: [string, (q: PatchView, first: PatchView, patches: readonly PatchView[]) => boolean][] = [
  ["of its colour and kind", (q, f) => q.is_ink === f.is_ink && String(q.colour) === String(f.colour)],
  ["smaller than it", (q, f) => q.is_ink === f.is_ink && (q.area ?? 0) <= (f.area ?? 0)],
  ["inside it", (q, f, all) => lies(q, f, all)],
];

function lies(q: PatchView, within: PatchView, patches: readonly PatchView[]): boolean {
  let up = q.parent;
  while (up !== null) {
    const p = patches[up];
    if (!p || p === within) return p === within;
    up = p.parent;
  }
  return false;
}

const SELECT = "min-w-0 flex-1 rounded-tile border border-edge bg-field px-1 py-1 text-xs font-semibold";

/** What can be done with the patches that are chosen, and what can be added. */
export function Actions(p: {
  bench: Bench;
  chosen: readonly number[];
  on: Spot[];
  setChosen: (now: number[]) => void;
  onShow: (t: Thinnest | null) => void;
}) {
  const { bench, chosen, on } = p;
  const { result, design } = bench;
  const { patches, outline: o } = result;
  const unit = design.document.unit;
  const middle: [number, number] = o ? [o.origin[0], o.origin[1]] : [0, 0];
  const mm = o?.mm_per_px ?? 1;
  const picked = chosen.flatMap((i) => patches[i] ?? []);
  const add = (change: Change) => bench.change([{ kind: "add-change", change }]);
  const first = picked[0];
  const isPinned = picked.some((q) => q.is_pinned);
  const file = useRef<HTMLInputElement>(null);
  const pin = () => bench.change([withPins(patches, picked, !isPinned)]);
  return (
    <Group title="Chosen" note={on.length > 0 ? `${on.length} chosen` : "choose patches first"}>
      {picked.length > 0 && (
        <p className="pb-1.5 text-xs text-soft" data-measures>
          {measures(picked, mm, unit)}
          {chosen.length === 1 && <ThinnestPlace key={String(picked[0]?.at)} {...p} />}
        </p>
      )}
      {picked.length > 0 && <PatchFilament bench={bench} picked={picked} />}
      {on.length > 0 && (
        <>
          <div className="grid grid-cols-3 gap-1">
            {actionsFor(on, middle, mm).map((a) => (
              <Button
                key={a.words}
                className="px-1 text-xs"
                disabled={on.length < a.least}
                title={a.title ?? (a.least > 1 ? "For two patches or more; the first one stays" : undefined)}
                onClick={() => add(a.change)}
              >
                {a.words}
              </Button>
            ))}
            <Button
              className="px-1 text-xs"
              disabled={on.length === 0}
              aria-pressed={isPinned}
              title="Must not be touched (P)"
              onClick={pin}
            >
              {isPinned ? "Let go" : "Pin"}
            </Button>
          </div>
          <LineUp on={on} add={add} />
        </>
      )}
      <div className="flex gap-1 pt-1">
        <select
          aria-label="Choose all like it"
          value=""
          disabled={!first}
          onChange={(e) => {
            const is = LIKE.find(([words]) => words === e.target.value)?.[1];
            if (is && first) p.setChosen(patches.flatMap((q, i) => (is(q, first, patches) ? [i] : [])));
          }}
          className={SELECT}
        >
          <option value="">All…</option>
          {LIKE.map(([words]) => (
            <option key={words}>{words}</option>
          ))}
        </select>
        <Button className="px-1.5 text-xs" disabled={on.length === 0} onClick={() => p.setChosen([])}>
          None
        </Button>
        <Button
          className="px-1.5 text-xs"
          title="Ctrl C; into this or another design"
          disabled={on.length === 0}
          onClick={() => copyPatches(bench, chosen)}
        >
          Copy
        </Button>
        <Button className="px-1.5 text-xs" title="Ctrl V" onClick={() => pastePatches(bench)}>
          Paste
        </Button>
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
          className={SELECT}
        >
          <option value="">Add a shape…</option>
          {SHAPES.map(([words]) => (
            <option key={words}>{words}</option>
          ))}
        </select>
        <Button
          className="px-1.5 text-xs"
          disabled={!o}
          onClick={() =>
            add({
              do: "text",
              text: {
                words: "Name",
                face: "rounded",
                size: 8,
                spacing: 0,
                leading: 1.6,
                align: "middle",
                arc: 0,
              },
              at: middle,
              degrees: 0,
              use: "detail",
            })
          }
        >
          Add text
        </Button>
        <Button className="px-1.5 text-xs" onClick={() => file.current?.click()}>
          Add an SVG…
        </Button>
        <input
          ref={file}
          type="file"
          aria-label="Add patches from an SVG"
          accept="image/svg+xml,.svg"
          className="sr-only"
          tabIndex={-1}
          onChange={(e) => {
            const chosenFile = e.target.files?.[0];
            e.target.value = "";
            if (chosenFile) bench.addPatches(chosenFile);
          }}
        />
      </div>
    </Group>
  );
}

/** Where the chosen patch is thinnest: asked for, because it takes a while on a large one. */
function ThinnestPlace(p: { bench: Bench; chosen: readonly number[]; onShow: (t: Thinnest | null) => void }) {
  const { bench, onShow } = p;
  const [words, setWords] = useState<string | null>(null);
  const ask = () =>
    api
      .thinnest(bench.design.id, p.chosen[0] ?? 0)
      .then((t) => {
        setWords(t ? `thinnest ${withUnit(t.width, bench.design.document.unit)}` : "nowhere under 20 mm");
        onShow(t);
      })
      .catch(() => undefined);
  useEffect(() => () => onShow(null), [onShow]);
  return (
    <>
      {" · "}
      {words ?? (
        <button type="button" className="rounded-xs underline hover:text-glaze" onClick={() => void ask()}>
          thinnest place?
        </button>
      )}
    </>
  );
}

/** Width, height, area and the way round, over all that are chosen. */
function measures(picked: PatchView[], mm: number, unit: "mm" | "in"): string {
  const of = (k: number, f: (...n: number[]) => number) => f(...picked.map((q) => q.span[k] ?? 0));
  const [w, h] = [of(2, Math.max) - of(0, Math.min), of(3, Math.max) - of(1, Math.min)];
  const area = picked.reduce((a, q) => a + (q.area ?? 0), 0);
  const round = picked.reduce((a, q) => a + (q.perimeter ?? 0), 0);
  return `${rough(w * mm, unit)} × ${rough(h * mm, unit)} ${unit} · ${(area / 100).toFixed(2)} cm² · ${withUnit(round, unit, 1)} round`;
}

export function copyPatches(bench: Bench, chosen: readonly number[]) {
  const { say } = useNotices.getState();
  void api
    .copy(bench.design.id, chosen)
    .then((change) => {
      localStorage.setItem(CLIPBOARD, JSON.stringify({ from: bench.design.id, change }));
      say({
        text: `${chosen.length} copied`,
        hint: "Paste it here or in another design.",
        isBad: false,
        action: null,
      });
    })
    .catch(() => undefined);
}

/** In the same design beside where they were, in another one on its middle. */
export function pastePatches(bench: Bench) {
  const { say } = useNotices.getState();
  try {
    const { from, change } = JSON.parse(localStorage.getItem(CLIPBOARD) ?? "") as {
      from: string;
      change: Change;
    };
    if (change.do !== "paste") throw new Error();
    const o = bench.result.outline;
    const beside = 5 / (o?.mm_per_px ?? 1);
    const at: [number, number] =
      from === bench.design.id || !o
        ? [change.at[0] + beside, change.at[1] + beside]
        : [o.origin[0], o.origin[1]];
    bench.change([{ kind: "add-change", change: { ...change, at } }]);
  } catch {
    say({
      text: "Nothing was copied yet",
      hint: "Choose patches and copy them first.",
      isBad: true,
      action: null,
    });
  }
}

const SIDES: [string, { across?: Side; down?: Side }][] = [
  ["Left", { across: "start" }],
  ["Middle", { across: "middle" }],
  ["Right", { across: "end" }],
  ["Top", { down: "start" }],
  ["Halfway", { down: "middle" }],
  ["Bottom", { down: "end" }],
];

function LineUp({ on, add }: { on: Spot[]; add: (c: Change) => void }) {
  const [to, setTo] = useState<LineUpWith>("object");
  const least = to === "object" ? 1 : 2;
  return (
    <details className="pt-1 text-xs">
      <summary className="cursor-pointer font-semibold">Line up and space out</summary>
      <div className="grid grid-cols-3 gap-1 pt-1">
        <select
          aria-label="Line up with"
          value={to}
          onChange={(e) => setTo(e.target.value as LineUpWith)}
          className={`${SELECT} col-span-3`}
        >
          <option value="object">with the whole object</option>
          <option value="each">with each other</option>
          <option value="first">with the first one</option>
        </select>
        {SIDES.map(([words, { across, down }]) => (
          <Button
            key={words}
            className="px-1 text-xs"
            disabled={on.length < least}
            onClick={() => add({ do: "line-up", on, across: across ?? null, down: down ?? null, with: to })}
          >
            {words}
          </Button>
        ))}
        {[false, true].map((is_down) => (
          <Button
            key={String(is_down)}
            className="px-1 text-xs"
            title="Equal gaps; for three or more"
            disabled={on.length < 3}
            onClick={() => add({ do: "space-out", on, is_down })}
          >
            {is_down ? "Space down" : "Space across"}
          </Button>
        ))}
      </div>
    </details>
  );
}
