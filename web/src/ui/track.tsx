import { Slider } from "radix-ui";

interface TrackProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  /** While it moves. */
  onMove: (v: number) => void;
  /** When it is let go. */
  onSettle: (v: number) => void;
}

/** A slider. */
export function Track(p: TrackProps) {
  return (
    <Slider.Root
      className="relative flex h-5 w-full touch-none items-center select-none"
      value={[p.value]}
      min={p.min}
      max={p.max}
      step={p.step ?? 1}
      onValueChange={([v]) => v !== undefined && p.onMove(v)}
      onValueCommit={([v]) => v !== undefined && p.onSettle(v)}
    >
      <Slider.Track className="relative h-1.5 w-full rounded-full bg-line">
        <Slider.Range className="absolute h-full rounded-full bg-glaze" />
      </Slider.Track>
      <Slider.Thumb
        aria-label={p.label}
        className="block size-4 rounded-[4px] border-2 border-tile bg-glaze"
      />
    </Slider.Root>
  );
}
