import { memo, useMemo, useRef } from "react";
import type { Bench } from "../../api/bench";
import { useInterface } from "../../state/interface";
import { Solid } from "../views/solid";
import { type SolidHold, seenOf, type Under } from "../views/solid-props";
import { laidOn } from "./laid-on";
import type { SeenLayer } from "./layer-plan";

/** The object as far as a layer, with that layer's lines on top. The plan moves on without it. */
export const LayerSolid = memo(function LayerSolid(p: {
  bench: Bench;
  layer: SeenLayer;
  byFilament: boolean;
}) {
  const { layer, byFilament } = p;
  const { result } = p.bench.design;
  const isDark = useInterface((s) => s.isDark);
  const hold = useRef<SolidHold | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: by night the page's colours are others
  const under = useMemo(
    (): Under => ({ height: layer.top, groups: laidOn(layer.groups, byFilament) }),
    [layer, byFilament, isDark],
  );
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
});

const VIEW = { name: "stand", count: 0 } as const;
