import { useQueryClient } from "@tanstack/react-query";
import type { Bench } from "../../api/bench";
import { api, refusal } from "../../api/client";
import type { Edit } from "../../api/generated/Edit";
import { isCutter } from "../../api/recipe";
import { useWorkshop, WORKSHOP } from "../../api/workshop";
import { useNotices } from "../../state/notices";
import { Button } from "../../ui/button";
import { css } from "../artwork/frame";
import { baseByColour, filamentsFor, paintByColour, tiersByColour } from "./colours";

/** The colours of the picture that are in use, and how their filaments are brought about. */
export function useColours(bench: Bench) {
  const cache = useQueryClient();
  const data = useWorkshop();
  const say = useNotices((s) => s.say);
  const palette = bench.result.trace?.palette ?? [];
  const patches = bench.design.result.patches;
  const found = filamentsFor(palette, patches, data?.workshop.filaments[0]);
  /** Adds filaments that are missing to the workshop first; one undo takes the design's own change back. */
  const withFilaments = async (edits: Edit[]) => {
    try {
      if (data && found.missing.length > 0) {
        const filaments = [...data.workshop.filaments, ...found.missing];
        cache.setQueryData(WORKSHOP, await api.setWorkshop(data.version, { ...data.workshop, filaments }));
      }
      bench.change(edits);
    } catch (e) {
      const hint = "Look at the filaments in the workshop.";
      say({ text: refusal(e), hint, isBad: true, action: null });
    }
  };
  const nameOf = (id: string) =>
    [...(data?.workshop.filaments ?? []), ...found.missing].find((f) => f.id === id)?.name ?? id;
  const { document } = bench.design;
  const base = () =>
    isCutter(document.recipe) ? [] : baseByColour(found.of, patches, bench.result.tiers, document.filaments);
  const tiers = (height: number, isStepped: boolean) => {
    const next = Math.max(0, ...document.tiers.map((t) => t.id)) + 1;
    const named = found.of.map((o) => ({ ...o, name: nameOf(o.filament) }));
    const hasRelief = bench.result.measures.some(
      (m) => m.name === "relief" && m.options.some((o) => o.name === "nothing"),
    );
    void withFilaments([
      ...tiersByColour(named, patches, { next, base: height, step: 0.8, isStepped }),
      ...base(),
      ...(hasRelief ? [{ kind: "set-measure" as const, name: "relief", value: "nothing" }] : []),
    ]);
  };
  return {
    of: found.of,
    paint: () => void withFilaments([...paintByColour(found.of, patches, document.recipe), ...base()]),
    tiers,
  };
}

/** One press gives every colour of the picture its nearest filament, or adds it to the workshop. */
export function ColoursToFilaments({ bench }: { bench: Bench }) {
  const { of, paint } = useColours(bench);
  if (of.length < 2) return null;
  return (
    <Button
      className="mb-1.5 w-full px-1 text-xs"
      title="Each colour of the picture gets the nearest filament of the workshop; where none is near, a new one"
      onClick={paint}
    >
      <span className="flex">
        {of.map((o) => (
          <span
            key={String(o.swatch.colour)}
            className="-ml-1 size-3.5 rounded-full border border-tile first:ml-0"
            style={{ background: css(o.swatch.colour) }}
          />
        ))}
      </span>
      Colours to filaments
    </Button>
  );
}
