import type { Infill } from "../../api/generated/Infill";
import type { PrintSettings as Settings } from "../../api/generated/PrintSettings";
import type { Workshop } from "../../api/generated/Workshop";
import { Choice } from "../../ui/choice";
import { Numeric, type Unread } from "./table";

interface Field {
  name: Exclude<keyof Settings, "pattern" | "outer_first">;
  words: string;
  /** Lengths are shown in the workshop's unit. */
  unit: string;
  isWhole?: boolean;
}

const FIELDS: readonly (readonly Field[])[] = [
  [
    { name: "first_layer", words: "First layer", unit: "length" },
    { name: "walls", words: "Lines along borders", unit: "", isWhole: true },
    { name: "solid_layers", words: "Solid layers, below and above", unit: "", isWhole: true },
    { name: "infill", words: "Infill", unit: "%" },
    { name: "skirt", words: "Skirt lines", unit: "", isWhole: true },
    { name: "brim", words: "Brim", unit: "length" },
  ],
  [
    { name: "outer_speed", words: "Outer walls", unit: "mm/s" },
    { name: "wall_speed", words: "Walls", unit: "mm/s" },
    { name: "fill_speed", words: "Infill", unit: "mm/s" },
    { name: "first_speed", words: "First layer", unit: "mm/s" },
    { name: "travel_speed", words: "Travel", unit: "mm/s" },
    { name: "acceleration", words: "Acceleration", unit: "mm/s²" },
  ],
  [
    { name: "flow", words: "Highest flow", unit: "mm³/s" },
    { name: "layer_time", words: "A layer takes at least", unit: "s" },
    { name: "heating", words: "Heating", unit: "s" },
    { name: "nozzle_heat", words: "Nozzle", unit: "°C" },
    { name: "bed_heat", words: "Bed", unit: "°C" },
    { name: "change", words: "A change of filament", unit: "s" },
    { name: "purge", words: "Purge at a change", unit: "mm³" },
  ],
];

const GROUPS = ["Lines", "Speeds", "Time and heat"];

const PATTERNS: readonly { name: Infill; label: string }[] = [
  { name: "lines", label: "Lines" },
  { name: "grid", label: "Grid" },
  { name: "honeycomb", label: "Honeycomb" },
  { name: "concentric", label: "Concentric" },
];

const OUTER = [
  { name: "last", label: "Last" },
  { name: "first", label: "First" },
];

/** How things are printed: what a rehearsal reckons with. */
export function PrintSettings({
  w,
  set,
  onUnread,
}: {
  w: Workshop;
  set: (w: Workshop) => void;
  onUnread: Unread;
}) {
  const put = (change: Partial<Settings>) => set({ ...w, print: { ...w.print, ...change } });
  return (
    <section className="pb-5" aria-label="Print settings">
      <h3 className="pb-1 font-display text-base font-semibold">Print settings</h3>
      <div className="grid gap-6 md:grid-cols-3">
        {FIELDS.map((fields, g) => (
          <div key={GROUPS[g]}>
            <p className="pb-1 text-xs text-soft">{GROUPS[g]}</p>
            <table className="w-full text-sm">
              <tbody>
                {fields.map((f) => (
                  <tr key={f.name}>
                    <td className="py-1 pr-2">{f.words}</td>
                    <Numeric
                      onUnread={onUnread}
                      label={`${GROUPS[g]}: ${f.words}`}
                      {...(f.unit === "length" ? { unit: w.unit } : {})}
                      value={w.print[f.name]}
                      width="62px"
                      onChange={(v) => put({ [f.name]: f.isWhole ? Math.round(v) : v })}
                    />
                    <td className="w-12 text-xs text-soft">{f.unit === "length" ? w.unit : f.unit}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {g === 0 && (
              <div className="grid gap-1.5 pt-1">
                <Choice
                  label="Pattern of the infill"
                  value={w.print.pattern}
                  options={PATTERNS}
                  onChoose={(pattern) => put({ pattern: pattern as Infill })}
                />
                <Choice
                  label="Outer wall comes"
                  value={w.print.outer_first ? "first" : "last"}
                  options={OUTER}
                  onChoose={(when) => put({ outer_first: when === "first" })}
                />
              </div>
            )}
          </div>
        ))}
      </div>
    </section>
  );
}
