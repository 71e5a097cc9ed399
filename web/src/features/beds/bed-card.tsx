import type { BedWork } from "../../api/beds";
import type { BedEdit } from "../../api/generated/BedEdit";
import type { PrintView } from "../../api/generated/PrintView";
import type { Problem } from "../../api/generated/Problem";
import type { Quality } from "../../api/generated/Quality";
import type { Turns } from "../../api/generated/Turns";
import type { Unit } from "../../api/generated/Unit";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { withUnit } from "../../ui/length";
import { MeasureField } from "../../ui/measure-field";
import { Card, Group } from "../../ui/panel";
import { Fact, Spool } from "../print/fact";
import { INFILLS, QUALITIES } from "../print/rehearsal";
import { clock } from "../print/time";
import { DesignRow, PieceFields } from "./bed-pieces";

const TURNS: readonly { name: Turns; label: string }[] = [
  { name: "any", label: "Any" },
  { name: "quarter", label: "Quarters" },
  { name: "none", label: "None" },
];

interface Props {
  work: BedWork;
  plate: number;
  print: PrintView | undefined;
  problem: Problem | null;
  chosen: readonly number[];
  /** Chooses pieces, and goes to the plate on which they lie. */
  onChoose: (pieces: number[], plate: number | null) => void;
  commit: (edits: BedEdit[]) => Promise<unknown>;
}

/** What lies on the bed, what stands against it, how long it takes. */
export function BedCard(p: Props) {
  const { work, print, commit } = p;
  const { bed } = work;
  const { result, document: d } = bed;
  const { unit } = result;
  const one = p.chosen.length === 1 ? d.pieces.find((q) => q.id === p.chosen[0]) : undefined;
  const infills = [...new Set([...INFILLS, d.infill ?? print?.infill ?? 15])].sort((a, b) => a - b);
  return (
    <Card title="What lies on it">
      {result.conflicts.map((c) => (
        <button
          key={`${c.kind} ${c.plate} ${c.words}`}
          type="button"
          data-conflict={c.kind}
          onClick={() => p.onChoose(c.pieces, c.plate)}
          className={`mb-2 block w-full rounded-tile border-l-4 bg-sunk px-2.5 py-1.5 text-left text-sm ${
            c.is_grave ? "border-terracotta" : "border-edge"
          }`}
        >
          {result.plates > 1 && c.plate !== null && <b>Bed {c.plate + 1}: </b>}
          {c.words}
        </button>
      ))}
      {p.problem && (
        <p className="pb-2 text-sm text-terracotta" role="alert">
          {p.problem.detail}. {p.problem.hint}
        </p>
      )}
      {result.plates > 0 && (
        <Totals
          print={print}
          unit={unit}
          title={result.plates > 1 ? `Print of bed ${p.plate + 1}` : "Print"}
        />
      )}
      <Group title="Pieces" note={`${d.pieces.length}`}>
        <ul aria-label="Designs on the bed">
          {result.designs.map((design) => (
            <DesignRow
              key={design.id}
              design={design}
              unit={unit}
              onCopies={(copies) => commit([{ kind: "set-copies", design: design.id, copies }])}
              onChoose={() => {
                const mine = d.pieces.filter((q) => q.design === design.id);
                p.onChoose(
                  mine.map((q) => q.id),
                  mine[0]?.place?.plate ?? null,
                );
              }}
            />
          ))}
        </ul>
      </Group>
      {one?.place && (
        <Group title="Chosen piece" note={result.designs.find((o) => o.id === one.design)?.name}>
          <PieceFields piece={one.id} pose={one.place.pose} unit={unit} work={work} />
          <div className="flex gap-1.5 pt-1.5">
            <Button
              className="text-xs"
              onClick={() =>
                void commit([
                  {
                    kind: "put-at",
                    piece: one.id,
                    right: null,
                    up: null,
                    degrees: (one.place?.pose.degrees ?? 0) + 90,
                  },
                ])
              }
            >
              Turn by 90°
            </Button>
            <Button className="text-xs" onClick={() => void commit([{ kind: "remove", pieces: [one.id] }])}>
              Take off
            </Button>
          </div>
        </Group>
      )}
      <Group title="How it is arranged">
        <MeasureField
          label="Gap"
          meaning="How far pieces stay apart"
          value={d.gap}
          unit={unit}
          step={0.5}
          onCommit={(value) => work.commit([{ kind: "set-gap", value }])}
        />
        <Choice
          label="Turns"
          meaning="How pieces may be turned to find room"
          value={d.turns}
          options={TURNS}
          onChoose={(turns) => commit([{ kind: "set-turns", turns: turns as Turns }])}
        />
      </Group>
      <Group title="How it is printed">
        <Choice
          label="Quality"
          meaning="Height of the layers"
          value={d.quality}
          options={QUALITIES}
          onChoose={(quality) => commit([{ kind: "set-quality", quality: quality as Quality }])}
        />
        <Choice
          label="Infill"
          meaning="How much of the inside is filled"
          value={String(d.infill ?? print?.infill ?? 15)}
          options={infills.map((v) => ({ name: String(v), label: `${v} %` }))}
          onChoose={(v) => commit([{ kind: "set-infill", infill: Number(v) }])}
        />
        <Fact words="Printer" value={result.printer} />
      </Group>
    </Card>
  );
}

/** Time, filament, and when somebody has to be there. */
function Totals({ print, unit, title }: { print: PrintView | undefined; unit: Unit; title: string }) {
  if (!print) return <p className="pb-2 text-sm text-soft">Going through the print…</p>;
  const grams = print.filaments.reduce((sum, f) => sum + f.grams, 0);
  const price = print.filaments.reduce((sum, f) => sum + f.price, 0);
  return (
    <Group title={title}>
      <p className="font-display text-2xl font-semibold whitespace-nowrap" data-testid="print-time">
        {clock(print.seconds)}
      </p>
      <p className="pb-1 text-xs text-soft">
        {clock(print.heating)} of it to heat · {print.tops.length} layers of {withUnit(print.layer, unit, 2)}
      </p>
      {print.filaments.map((f) => (
        <Spool
          key={f.filament}
          filament={f.filament}
          colour={f.colour}
          grams={f.grams}
          note={`${f.metres.toFixed(2)} m`}
        />
      ))}
      <Fact words="Together" value={`${grams.toFixed(1)} g`} note={`${price.toFixed(2)} ${print.currency}`} />
      {[...print.stops, ...print.pauses].slice(0, 6).map((s) => (
        <Fact
          key={`${s.layer} ${s.what}`}
          words={s.what}
          value={`layer ${s.layer}`}
          note={`${withUnit(s.height, unit, 1)}, after ${clock(s.at)}`}
        />
      ))}
      {print.stops.length + print.pauses.length > 6 && (
        <p className="text-xs text-soft">and {print.stops.length + print.pauses.length - 6} more stops</p>
      )}
      {print.notes.map((n) => (
        <p key={n} className="pt-1 text-xs text-soft">
          {n}
        </p>
      ))}
    </Group>
  );
}
