import type { BedWork } from "../../api/beds";
import type { BedEdit } from "../../api/generated/BedEdit";
import type { PrintOrder } from "../../api/generated/PrintOrder";
import type { PrintView } from "../../api/generated/PrintView";
import type { Problem } from "../../api/generated/Problem";
import type { Turns } from "../../api/generated/Turns";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { MeasureField } from "../../ui/measure-field";
import { said } from "../../ui/numbers";
import { Card, Group } from "../../ui/panel";
import { Fact } from "../print/fact";
import { Estimate, HowFine } from "../print/rehearsal";
import { DesignRow, PieceFields } from "./bed-pieces";

const TURNS: readonly { name: Turns; label: string }[] = [
  { name: "any", label: "Any" },
  { name: "quarter", label: "Quarters" },
  { name: "none", label: "None" },
];

const ORDERS: readonly { name: PrintOrder; label: string }[] = [
  { name: "together", label: "Together" },
  { name: "one-by-one", label: "One by one" },
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
          {said(c.words)}
        </button>
      ))}
      {p.problem && (
        <p className="pb-2 text-sm text-terracotta" role="alert">
          {p.problem.detail}. {p.problem.hint}
        </p>
      )}
      {print && (
        <Estimate
          print={print}
          unit={unit}
          name={d.name}
          title={result.plates > 1 ? `Print of bed ${p.plate + 1}` : "Print"}
        >
          <HowFine
            quality={d.quality}
            infill={print.infill}
            onQuality={(quality) => commit([{ kind: "set-quality", quality }])}
            onInfill={(infill) => commit([{ kind: "set-infill", infill }])}
          />
        </Estimate>
      )}
      {!print && result.plates > 0 && !p.problem && (
        <p className="pb-2 text-sm text-soft">Going through the print…</p>
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
        <Fact words="Printer" value={result.printer} />
        <Choice
          label="Order"
          meaning="All pieces layer by layer, or each to its top before the next: then a failure costs one piece only, and the print head needs room"
          value={d.order}
          options={ORDERS}
          onChoose={(order) => commit([{ kind: "set-order", order: order as PrintOrder }])}
        />
        <Choice
          label="Turns"
          meaning="How pieces may be turned to find room"
          value={d.turns}
          options={TURNS}
          onChoose={(turns) => commit([{ kind: "set-turns", turns: turns as Turns }])}
        />
      </Group>
    </Card>
  );
}
