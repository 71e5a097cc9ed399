import { Switch } from "radix-ui";
import { useId, useState } from "react";
import type { Bench } from "../../api/bench";
import type { Edit } from "../../api/generated/Edit";
import { local } from "../../ui/numbers";
import { Track } from "../../ui/track";

/** A setting with a slider: previewed while it moves, saved when it is let go. */
export function Live(p: {
  bench: Bench;
  label: string;
  unit: string;
  value: number;
  min: number;
  max: number;
  step: number;
  edit: (v: number) => Edit;
}) {
  const [live, setLive] = useState<number | null>(null);
  return (
    <div className="flex items-center gap-3 py-1 text-sm">
      <span className="w-20 flex-none">{p.label}</span>
      <Track
        label={p.label}
        value={live ?? p.value}
        min={p.min}
        max={p.max}
        step={p.step}
        onMove={(v) => {
          setLive(v);
          p.bench.preview([p.edit(v)]);
        }}
        onSettle={(v) => {
          setLive(null);
          if (v !== p.value) p.bench.change([p.edit(v)]);
        }}
      />
      <output className="w-16 flex-none text-right text-sm whitespace-nowrap">
        {local(String(Number((live ?? p.value).toFixed(2))))}{" "}
        <span className="text-xs text-soft">{p.unit}</span>
      </output>
    </div>
  );
}

export function Toggle(p: { label: string; isOn: boolean; onChange: (on: boolean) => void }) {
  const id = useId();
  return (
    <div className="flex items-center gap-2 pt-2 text-sm">
      <label htmlFor={id} className="flex-1">
        {p.label}
      </label>
      <Switch.Root
        id={id}
        checked={p.isOn}
        onCheckedChange={p.onChange}
        className="h-5 w-9 rounded-[5px] bg-edge data-[state=checked]:bg-glaze"
      >
        <Switch.Thumb className="block size-4 translate-x-0.5 rounded-[4px] bg-tile transition-transform data-[state=checked]:translate-x-[18px]" />
      </Switch.Root>
    </div>
  );
}
