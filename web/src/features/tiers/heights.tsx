import { create } from "zustand";
import type { Bench } from "../../api/bench";
import type { Moves } from "../../api/generated/Moves";
import type { TierView } from "../../api/generated/TierView";
import type { Unit } from "../../api/generated/Unit";
import { heightOf, layersTo, shown, withUnit } from "../../ui/length";
import { MeasureField } from "../../ui/measure-field";

interface HeightMode {
  /** Heights are told above what is below; else from the bed. */
  isAbove: boolean;
  setAbove: (on: boolean) => void;
}

const KEY = "kachel-heights";

/** As the maker prefers, on every design. */
export const useHeightMode = create<HeightMode>((set) => ({
  isAbove: localStorage.getItem(KEY) === "above",
  setAbove: (isAbove) => {
    localStorage.setItem(KEY, isAbove ? "above" : "bed");
    set({ isAbove });
  },
}));

/** The highest upper side of another tier under a height: what an amount above counts from. */
export function below(tiers: readonly TierView[], tier: TierView, at: number): number {
  const tops = tiers.filter((o) => o.key !== tier.key && !o.is_cut && o.top <= at - 1e-6).map((o) => o.top);
  return Math.max(0, ...tops);
}

/** A typed height is kept, and this says what will print. */
export function printed(mm: number, layers: number, prints: number, unit: Unit): string {
  return `${layers} layers${Math.abs(prints - mm) > 1e-6 ? `, ${withUnit(prints, unit, 1)}` : ""}`;
}

/** Both ends of every tier, typed as heights from the bed or as amounts above what is below. */
export function HeightsTable(p: { bench: Bench; rows: readonly TierView[]; isAbove: boolean }) {
  return (
    <fieldset
      className="mb-1.5 rounded-tile border border-line px-2 py-1"
      aria-label="Heights"
      data-heights={p.isAbove ? "above" : "bed"}
    >
      {p.rows.map((t) => (
        <div key={t.key} className="border-b border-line py-0.5 last:border-b-0">
          <End {...p} tier={t} moves="top" />
          <End {...p} tier={t} moves="bottom" />
        </div>
      ))}
    </fieldset>
  );
}

function End(p: { bench: Bench; isAbove: boolean; tier: TierView; moves: Extract<Moves, "top" | "bottom"> }) {
  const { bench, tier, moves } = p;
  const { result } = bench;
  const { layer, tiers } = result;
  const unit = bench.design.document.unit;
  const at = moves === "top" ? tier.top : tier.bottom;
  const from = p.isAbove ? below(tiers, tier, at) : 0;
  const handle = tier.handles.find((h) => h.moves === moves);
  const label = `${tier.name}${moves === "top" ? "" : ", underside"}`;
  // Heights lie on the grid; what was typed is told to a thousandth.
  const told = (mm: number) => Math.round(mm * 1000) / 1000;
  const value = told(at - from);
  if (!handle) {
    // The bed needs no line of its own.
    if (moves === "bottom" && at < 1e-6) return null;
    return (
      <p className="flex justify-between py-1 text-sm">
        {label}
        <span className="pr-2 text-soft">{shown(value, unit, 1)}</span>
      </p>
    );
  }
  const { name, own, base, is_down } = handle;
  const layers = layersTo(at, result);
  return (
    <MeasureField
      label={label}
      meaning={p.isAbove ? `Above ${withUnit(from, unit, 1)}` : "From the bed"}
      value={value}
      unit={unit}
      step={layer}
      note={printed(told(at), layers, heightOf(layers, result), unit)}
      onCommit={(value) => bench.commit([{ kind: "set-height", name, own, base, is_down, from, value }])}
    />
  );
}
