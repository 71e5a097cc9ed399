import { useMemo, useRef } from "react";
import type { Bench } from "../../api/bench";
import { useInterface } from "../../state/interface";
import { rgb } from "../views/look";
import Solid from "../views/solid";
import { type SolidHold, seenOf, type Under } from "../views/solid-props";
import { KINDS, type Seen } from "./layer-plan";

/** The object as far as a layer, with that layer's lines on top. */
export default function LayerSolid(p: {
  bench: Bench;
  layer: Seen | undefined;
  height: number;
  byFilament: boolean;
}) {
  const { layer, height, byFilament } = p;
  const { result } = p.bench.design;
  const isDark = useInterface((s) => s.isDark);
  const hold = useRef<SolidHold | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: by night the page's colours are others
  const under = useMemo((): Under => {
    const lines = layer?.groups.flatMap((g) => g.lines) ?? [];
    return {
      height,
      lines: lines.map((l) => ({
        path: l.path,
        width: l.width * 0.9,
        colour: byFilament ? rgb(l.colour) : KINDS[l.kind].colour,
      })),
    };
  }, [layer, height, byFilament, isDark]);
  if (!result.solid) return null;
  return (
    <Solid
      {...seenOf(result, result.solid)}
      isLifted={false}
      isClear={false}
      isCut={false}
      isDark={isDark}
      measures={null}
      view={VIEW}
      hold={hold}
      marked={null}
      use={null}
      under={under}
    />
  );
}

const VIEW = { name: "stand", count: 0 } as const;
