import { type ReactNode, useEffect, useRef, useState } from "react";
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

/** So long a typed number rests, ms, before it is taken: what is typed next belongs to it. */
const REST_MS = 350;

/** A small number field for pixels or degrees. What is typed stays as it is typed until the hand rests or leaves. */
export function NumberField(p: {
  label: string;
  value: number;
  unit: string;
  min: number;
  max: number;
  digits?: number;
  onChange: (v: number) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const timer = useRef<number | null>(null);
  const take = (text: string) => {
    if (timer.current !== null) clearTimeout(timer.current);
    timer.current = null;
    const v = Number(text);
    if (text.trim() !== "" && Number.isFinite(v)) p.onChange(v);
  };
  const latest = useRef(take);
  useEffect(() => {
    latest.current = take;
  });
  // A value from elsewhere, such as undo, shows at once.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the value is the trigger
  useEffect(() => {
    if (timer.current === null) setDraft(null);
  }, [p.value]);
  const flush = () => {
    if (timer.current !== null && draft !== null) take(draft);
  };
  return (
    <label className="flex items-center gap-1 text-xs">
      <span className="flex-1">{p.label}</span>
      <input
        type="number"
        value={draft ?? Number(p.value.toFixed(p.digits ?? 2))}
        min={p.min}
        max={p.max}
        step="any"
        onChange={(e) => {
          const text = e.target.value;
          setDraft(text);
          if (timer.current !== null) clearTimeout(timer.current);
          timer.current = window.setTimeout(() => latest.current(text), REST_MS);
        }}
        onBlur={() => {
          flush();
          setDraft(null);
        }}
        onKeyDown={(e) => {
          if (e.key === "Enter") flush();
        }}
        className="w-16 rounded-tile border border-edge bg-field px-1.5 py-0.5 text-right text-sm"
      />
      <span className="text-soft">{p.unit}</span>
    </label>
  );
}
