import clsx from "clsx";
import { useRef } from "react";
import type { Bench } from "../../api/bench";
import type { PatchView } from "../../api/generated/PatchView";
import type { Use } from "../../api/generated/Use";
import { useInterface } from "../../state/interface";
import { Icon } from "../../ui/icons";
import { areaIn, rough } from "../../ui/length";
import { css } from "../artwork/frame";
import { keyedUse, UseMenu } from "./uses";

/** Patches that the drawing shows; the plan shows them all. */
const MOST = 150;

export interface NestProps {
  bench: Bench;
  chosen: readonly number[];
  onPick: (patch: number) => void;
  onUse: (patch: PatchView, use: Use) => void;
  onPin: (patch: PatchView) => void;
}

/**
 * What lies inside what: every patch is a tray, and what lies in it stands in the tray, larger ones first. The arrow keys
 * walk it: up and down to the next, left to what it lies in, right to the first in it.
 */
export function Nest(p: NestProps) {
  const { patches } = p.bench.result;
  const shown = patches.slice(0, MOST);
  const inside = new Map<number | null, number[]>();
  shown.forEach((q, i) => {
    const parent = q.parent !== null && q.parent < MOST ? q.parent : null;
    inside.set(parent, [...(inside.get(parent) ?? []), i]);
  });
  const bySize = (all: number[]) =>
    [...all].sort((a, b) => (patches[b]?.area ?? 0) - (patches[a]?.area ?? 0));
  const list = useRef<HTMLUListElement>(null);
  const walk = (e: React.KeyboardEvent, i: number) => {
    const rows = [...(list.current?.querySelectorAll<HTMLElement>("[data-walk]") ?? [])];
    const at = rows.findIndex((r) => r.dataset.walk === String(i));
    const to =
      e.key === "ArrowUp"
        ? rows[at - 1]
        : e.key === "ArrowDown"
          ? rows[at + 1]
          : e.key === "ArrowLeft"
            ? rows.find((r) => r.dataset.walk === String(patches[i]?.parent))
            : e.key === "ArrowRight"
              ? rows.find((r) => r.dataset.walk === String(bySize(inside.get(i) ?? [])[0]))
              : undefined;
    if (!to) return;
    e.preventDefault();
    to.focus();
  };
  return (
    <>
      <ul ref={list} className="flex flex-col gap-1">
        {bySize(inside.get(null) ?? []).map((i) => (
          <TrayOf key={i} {...p} index={i} inside={(n) => bySize(inside.get(n) ?? [])} walk={walk} />
        ))}
      </ul>
      {patches.length > MOST && (
        <p className="pt-1 text-xs text-soft">
          and {patches.length - MOST} smaller ones; click them in the plan
        </p>
      )}
    </>
  );
}

function TrayOf(
  p: NestProps & {
    index: number;
    inside: (n: number) => number[];
    walk: (e: React.KeyboardEvent, i: number) => void;
  },
) {
  const { index: i, bench } = p;
  const isPointed = useInterface((s) => s.patch === i);
  const pointPatch = useInterface((s) => s.pointPatch);
  const patch = bench.result.patches[i];
  if (!patch) return null;
  const kids = p.inside(i);
  const mm = bench.result.outline?.mm_per_px;
  const [l, t, r, b] = patch.span;
  const unit = bench.design.document.unit;
  const size = mm ? `${rough((r - l) * mm, unit)} × ${rough((b - t) * mm, unit)} ${unit}` : undefined;
  return (
    <li
      className={clsx(
        "rounded-tile border",
        p.chosen.includes(i) ? "border-terracotta" : "border-line",
        {
          edge: "border-l-4 border-l-wall",
          detail: "border-l-4 border-l-stamp",
          both: "border-l-4 border-l-glaze",
          opening: "border-l-4 border-l-ink",
          aside: "border-dashed",
        }[patch.use],
      )}
    >
      <div
        className={clsx("flex items-center gap-1 rounded-tile py-0.5 pr-0.5 pl-1.5", isPointed && "bg-sunk")}
        onPointerEnter={() => pointPatch(i)}
        onPointerLeave={() => pointPatch(null)}
        data-row={i}
      >
        {patch.colour && (
          <span
            className="size-3 flex-none rounded-[3px] border border-line"
            style={{ background: css(patch.colour) }}
          />
        )}
        <button
          type="button"
          data-walk={i}
          aria-pressed={p.chosen.includes(i)}
          aria-label={`Choose ${patch.is_ink ? "ink" : "gap"} ${i + 1}`}
          title={size}
          onClick={() => p.onPick(i)}
          onFocus={() => pointPatch(i)}
          onKeyDown={(e) => {
            const key = e.key.toLowerCase();
            if (key === "p" && !e.ctrlKey && !e.metaKey) p.onPin(patch);
            else giveByKey(e, (u) => p.onUse(patch, u));
            p.walk(e, i);
          }}
          className="min-w-0 flex-1 truncate rounded-tile text-left text-sm aria-pressed:text-terracotta aria-pressed:underline"
        >
          {patch.group ?? (patch.is_ink ? "Ink" : "Gap")}{" "}
          <span className="text-xs text-soft">{patch.area === null ? "" : areaIn(patch.area, unit)}</span>
        </button>
        {patch.is_pinned && <Icon name="pin" className="size-4 text-terracotta" />}
        <UseMenu
          use={patch.use}
          name={`${patch.is_ink ? "Ink" : "Gap"} ${i + 1}`}
          onChoose={(u) => p.onUse(patch, u)}
        />
      </div>
      {kids.length > 0 && (
        <ul className="flex flex-col gap-1 pr-1 pb-1 pl-2">
          {kids.map((k) => (
            <TrayOf key={k} {...p} index={k} />
          ))}
        </ul>
      )}
    </li>
  );
}

/** The letters of uses give one to the patch whose row has the focus. */
function giveByKey(e: React.KeyboardEvent, onChoose: (use: Use) => void) {
  const use = keyedUse(e.key);
  if (use && !e.ctrlKey && !e.metaKey) onChoose(use);
}
