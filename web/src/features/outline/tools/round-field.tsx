import { useState } from "react";
import type { Unit } from "../../../api/generated/Unit";
import { Button } from "../../../ui/button";
import { LengthField } from "../../artwork/tools/tray";

/** Rounds the chosen corners by a radius, millimetres. */
export function RoundField(p: { isOff: boolean; unit: Unit; onRound: (radius: number) => void }) {
  const [radius, setRadius] = useState(2);
  return (
    <span className="flex items-center gap-1">
      <LengthField label="radius" unit={p.unit} min={0.05} max={200} value={radius} onChange={setRadius} />
      <Button
        className="text-xs"
        title="Rounds the chosen corners by this radius"
        why={p.isOff ? "Choose corners first" : radius <= 0 && "Type a radius first"}
        onClick={() => p.onRound(radius)}
      >
        Round
      </Button>
    </span>
  );
}
