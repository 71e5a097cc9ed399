import type { ReactNode } from "react";
import type { Unit } from "../../../api/generated/Unit";
import { Button } from "../../../ui/button";

/** What the active tool says and asks, under the row of tools. */
export function Tray({
  words,
  children,
  onDone,
}: {
  words: string;
  children: ReactNode;
  onDone?: () => void;
}) {
  return (
    <div className="flex min-h-12 flex-none flex-wrap items-center gap-x-2 gap-y-1 border-y border-line bg-sunk px-3 py-1.5 text-sm">
      <span className="min-w-48 flex-1 text-xs text-soft">{words}</span>
      {children}
      {onDone && (
        <Button className="text-xs" onClick={onDone}>
          Close
        </Button>
      )}
    </div>
  );
}

/** A small field for a length in millimetres, shown in the design's unit. */
export function LengthField(p: {
  label: string;
  value: number;
  unit: Unit;
  min: number;
  max: number;
  onChange: (mm: number) => void;
}) {
  const one = p.unit === "in" ? 25.4 : 1;
  return (
    <NumberField
      label={p.label}
      unit={p.unit}
      value={p.value / one}
      min={p.min / one}
      max={p.max / one}
      digits={p.unit === "in" ? 3 : 2}
      onChange={(v) => p.onChange(v * one)}
    />
  );
}

/** A small number field for pixels or degrees. */
export function NumberField(p: {
  label: string;
  value: number;
  unit: string;
  min: number;
  max: number;
  digits?: number;
  onChange: (v: number) => void;
}) {
  return (
    <label className="flex items-center gap-1 text-xs">
      {p.label}
      <input
        type="number"
        value={Number(p.value.toFixed(p.digits ?? 2))}
        min={p.min}
        max={p.max}
        step="any"
        onChange={(e) => Number.isFinite(e.target.valueAsNumber) && p.onChange(e.target.valueAsNumber)}
        className="w-16 rounded-tile border border-edge bg-field px-1.5 py-0.5 text-right text-sm"
      />
      <span className="text-soft">{p.unit}</span>
    </label>
  );
}
