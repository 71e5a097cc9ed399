import { useEffect, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import { api } from "../../api/client";
import type { Change } from "../../api/generated/Change";
import type { PatchView } from "../../api/generated/PatchView";
import type { Spot } from "../../api/generated/Spot";
import type { Thinnest } from "../../api/generated/Thinnest";
import { Button } from "../../ui/button";
import { FileInput } from "../../ui/file-input";
import { areaIn, rough, withUnit } from "../../ui/length";
import { Group } from "../../ui/panel";
import { actionsFor, SHAPES } from "./action-list";
import { copyPatches, pastePatches } from "./clipboard";
import { LineUp, SELECT } from "./line-up";
import { cubicsOf } from "./lines";
import { PatchFilament } from "./patch-filament";
import { withPins } from "./tools/tool";

const CHOOSE_FIRST = "Choose a patch first";

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
            {actionsFor(on, middle, mm, () => picked.flatMap((q) => cubicsOf(q.path))).map((a) => (
              <Button
                key={a.words}
                className="px-1 text-xs"
                why={
                  on.length < a.least &&
                  `Choose ${a.least === 1 ? "a patch" : `${a.least} patches`} or more first`
                }
                title={a.title ?? (a.least > 1 ? "For two patches or more; the first one stays" : undefined)}
                onClick={() => add(a.change)}
              >
                {a.words}
              </Button>
            ))}
            <Button
              className="px-1 text-xs"
              why={on.length === 0 && CHOOSE_FIRST}
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
        <Button
          className="px-1.5 text-xs"
          why={on.length === 0 && "None is chosen"}
          onClick={() => p.setChosen([])}
        >
          Choose none
        </Button>
        <Button
          className="px-1.5 text-xs"
          title="Ctrl C; into this or another design"
          why={on.length === 0 && CHOOSE_FIRST}
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
          title={o ? undefined : "There is no outline yet"}
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
          why={!o && "There is no outline yet"}
          onClick={() =>
            add({
              do: "text",
              text: {
                words: "Name",
                face: "rounded",
                size: o ? Math.min(12, Math.max(2, Math.round(o.width / 5))) : 8,
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
        <FileInput
          ref={file}
          label="Add patches from an SVG"
          accept="image/svg+xml,.svg"
          tabIndex={-1}
          onFile={bench.addPatches}
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
        setWords(
          t
            ? `thinnest ${withUnit(t.width, bench.design.document.unit)}`
            : `nowhere under ${withUnit(20, bench.design.document.unit)}`,
        );
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
  return `${rough(w * mm, unit)} × ${rough(h * mm, unit)} ${unit} · ${areaIn(area, unit)} · ${withUnit(round, unit, 1)} round`;
}
