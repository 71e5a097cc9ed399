import { useRef, useState } from "react";
import type { ResultView } from "../../api/generated/ResultView";
import type { Unit } from "../../api/generated/Unit";
import { useInterface } from "../../state/interface";
import { said } from "../../ui/numbers";
import { Solid } from "./solid";
import { SolidGuard } from "./solid-guard";
import { type SolidHold, seenOf, type Twins } from "./solid-props";
import { useInUse } from "./use-in-use";

/** A state of the object with its name. */
interface Named {
  words: string;
  result: ResultView;
}

/** States of one object side by side; turning one turns the other. */
export function Beside(p: { states: readonly Named[]; unit: Unit; isInUse: boolean }) {
  const [twins] = useState<Twins>(() => new Set());
  return (
    <div className="grid min-h-0 flex-1 grid-cols-2 gap-2">
      {p.states.map((s) => (
        <One key={s.words} state={s} unit={p.unit} isInUse={p.isInUse} twins={twins} />
      ))}
    </div>
  );
}

function One(p: { state: Named; unit: Unit; isInUse: boolean; twins: Twins }) {
  const { words, result } = p.state;
  const isDark = useInterface((s) => s.isDark);
  const hold = useRef<SolidHold | null>(null);
  const use = useInUse(result.solid?.key, p.unit, p.isInUse);
  return (
    <figure className="flex min-h-0 min-w-0 flex-col rounded-tile bg-sunk" aria-label={words}>
      <div className="relative min-h-0 flex-1">
        {result.solid ? (
          <SolidGuard>
            <Solid
              {...seenOf(result, result.solid)}
              isLifted={false}
              isClear={false}
              isCut={false}
              isDark={isDark}
              measures={null}
              view={{ name: use && use.upright !== null ? "front" : "stand", count: use ? 1 : 0 }}
              hold={hold}
              marked={null}
              use={use}
              twins={p.twins}
            />
          </SolidGuard>
        ) : (
          <p className="p-6 text-center text-sm text-soft">There was no solid.</p>
        )}
      </div>
      <figcaption className="px-3 py-2 text-sm">
        <b className="font-semibold">{words}</b>
        {use && <span className="block text-soft">{said(use.says)}</span>}
      </figcaption>
    </figure>
  );
}
