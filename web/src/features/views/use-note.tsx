import { useState } from "react";
import type { CupAsked } from "../../api/client";
import type { CupView } from "../../api/generated/CupView";
import type { InUseView } from "../../api/generated/InUseView";
import type { Unit } from "../../api/generated/Unit";
import { rough } from "../../ui/length";
import { said } from "../../ui/numbers";
import { Track } from "../../ui/track";

/** The answer of an object in use, and what the view does not know. */
export function UseNote({
  use,
  unit,
  onCup,
}: {
  use: InUseView;
  unit: Unit;
  onCup: (cup: CupAsked) => void;
}) {
  return (
    <section className="border-t border-line px-4 py-3" aria-label="In use" data-testid="in-use">
      <h3 className="font-display text-sm font-semibold">{use.title}</h3>
      <p className="text-sm">{said(use.says)}</p>
      {use.cup && <CupFields cup={use.cup} unit={unit} onCup={onCup} />}
      <p className="pt-1 text-xs text-soft">{said(use.leaves_out)}</p>
    </section>
  );
}

const FIELDS = [
  { name: "foot", label: "Foot", min: 40, max: 100 },
  { name: "right", label: "To the right", min: -50, max: 50 },
  { name: "up", label: "Up", min: -50, max: 50 },
] as const;

/** Which cup it is and where it stands; it is set down where the slider is let go. */
function CupFields({ cup, unit, onCup }: { cup: CupView; unit: Unit; onCup: (cup: CupAsked) => void }) {
  const { foot, right, up } = cup;
  const [live, setLive] = useState<CupAsked>({});
  return (
    <div className="grid grid-cols-3 gap-4 pt-1.5">
      {FIELDS.map((f) => {
        const value = live[f.name] ?? cup[f.name];
        return (
          <div key={f.name} className="text-xs">
            <span className="flex justify-between">
              <span>{f.label}</span>
              <output className="tabular-nums text-soft">
                {rough(value, unit)} {unit}
              </output>
            </span>
            <Track
              label={f.label}
              value={value}
              min={f.min}
              max={f.max}
              onMove={(v) => setLive({ [f.name]: v })}
              onSettle={(v) => {
                setLive({});
                onCup({ foot, right, up, [f.name]: v });
              }}
            />
          </div>
        );
      })}
    </div>
  );
}
