import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import type { Bench } from "../../api/bench";
import { api } from "../../api/client";
import type { PrintView } from "../../api/generated/PrintView";
import type { PrintWish } from "../../api/generated/PrintWish";
import type { Quality } from "../../api/generated/Quality";
import type { Unit } from "../../api/generated/Unit";
import { Choice } from "../../ui/choice";
import { withUnit } from "../../ui/length";
import { fixed } from "../../ui/numbers";
import { Group } from "../../ui/panel";
import { Fact, Spool } from "./fact";
import { ReallyTook } from "./really-took";
import { clock } from "./time";

/** The print of the saved design; the last one stays until the next has come. */
export function usePrint(bench: Bench, wish: PrintWish) {
  const { design } = bench;
  return useQuery({
    queryKey: ["print", design.id, design.version, design.result.solid?.key, wish],
    queryFn: () => api.print(design.id, wish),
    enabled: design.result.solid !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
}

const QUALITIES: readonly { name: Quality; label: string }[] = [
  { name: "draft", label: "Draft, 0.28 mm" },
  { name: "usual", label: "Usual" },
  { name: "fine", label: "Fine, 0.12 mm" },
];

const INFILLS = [0, 5, 10, 15, 20, 30, 50, 75, 100];

/** Quality and infill, to be chosen. */
export function HowFine(p: {
  quality: Quality;
  infill: number;
  onQuality: (quality: Quality) => unknown;
  onInfill: (infill: number) => unknown;
}) {
  const infills = [...new Set([...INFILLS, p.infill])].sort((a, b) => a - b);
  return (
    <>
      <Choice
        label="Quality"
        meaning="Height of the layers"
        value={p.quality}
        options={QUALITIES}
        onChoose={(name) => p.onQuality(name as Quality)}
      />
      <Choice
        label="Infill"
        meaning="How much of the inside is filled"
        value={String(p.infill)}
        options={infills.map((v) => ({ name: String(v), label: `${v} %` }))}
        onChoose={(name) => p.onInfill(Number(name))}
      />
    </>
  );
}

/** How long, how much, and when somebody has to be there. */
export function Estimate(p: {
  print: PrintView;
  unit: Unit;
  /** What is printed. */
  name: string;
  title?: string;
  children: ReactNode;
}) {
  const { print, unit } = p;
  const price = print.filaments.reduce((sum, f) => sum + f.price, 0);
  const grams = print.filaments.reduce((sum, f) => sum + f.grams, 0);
  return (
    <>
      <Group title={p.title ?? "Print"}>
        <p className="font-display text-2xl font-semibold whitespace-nowrap" data-testid="print-time">
          {clock(print.likely?.seconds ?? print.seconds)}
        </p>
        <ReallyTook print={print} name={p.name} />
        <p className="pb-1 text-xs text-soft">
          {clock(print.heating)} of it to heat · {print.tops.length} layers of{" "}
          {withUnit(print.layer, unit, 2)}
        </p>
        {p.children}
        {print.notes.map((n) => (
          <p key={n} className="pt-1 text-xs text-terracotta">
            {n}
          </p>
        ))}
      </Group>
      <Group title="Filament">
        {print.filaments.map((f) => (
          <Spool key={f.filament} {...f} note={`${fixed(f.metres, 2)} m`} />
        ))}
        <Fact words="Price" value={`${fixed(price, 2)} ${print.currency}`} note={`${fixed(grams, 1)} g`} />
      </Group>
      {print.stops.length + print.pauses.length > 0 && (
        <Group
          title={print.changes_itself && print.pauses.length === 0 ? "Changes by the printer" : "Be there"}
        >
          {[...print.stops, ...print.pauses]
            .sort((a, b) => a.at - b.at)
            .slice(0, MOST_STOPS)
            .map((s) => (
              <Fact
                key={`${s.layer} ${s.what}`}
                words={s.what}
                value={clock(s.at)}
                note={`layer ${s.layer}`}
              />
            ))}
          {print.stops.length > MOST_STOPS && (
            <p className="pt-1 text-xs text-soft">
              {print.stops.length} changes of filament in all
              {print.changes_itself ? "." : ": a printer that loads several makes them by itself."}
            </p>
          )}
        </Group>
      )}
    </>
  );
}

const MOST_STOPS = 6;
