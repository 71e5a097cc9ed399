import { useState } from "react";
import type { Change } from "../../api/generated/Change";
import type { LineUpWith } from "../../api/generated/LineUpWith";
import type { Side } from "../../api/generated/Side";
import type { Spot } from "../../api/generated/Spot";
import { Button } from "../../ui/button";

export const SELECT =
  "min-w-0 flex-1 rounded-tile border border-edge bg-field px-1 py-1 text-xs font-semibold";

const SIDES: [string, { across?: Side; down?: Side }][] = [
  ["Left", { across: "start" }],
  ["Middle", { across: "middle" }],
  ["Right", { across: "end" }],
  ["Top", { down: "start" }],
  ["Halfway", { down: "middle" }],
  ["Bottom", { down: "end" }],
];

export function LineUp({ on, add }: { on: Spot[]; add: (c: Change) => void }) {
  const [to, setTo] = useState<LineUpWith>("object");
  const least = to === "object" ? 1 : 2;
  return (
    <details className="pt-1 text-xs">
      <summary className="cursor-pointer font-semibold">Line up and space out</summary>
      <div className="grid grid-cols-3 gap-1 pt-1">
        <select
          aria-label="Line up with"
          value={to}
          onChange={(e) => setTo(e.target.value as LineUpWith)}
          className={`${SELECT} col-span-3`}
        >
          <option value="object">with the whole object</option>
          <option value="each">with each other</option>
          <option value="first">with the first one</option>
        </select>
        {SIDES.map(([words, { across, down }]) => (
          <Button
            key={words}
            className="px-1 text-xs"
            why={on.length < least && `Choose ${least === 1 ? "a patch" : `${least} patches`} or more first`}
            onClick={() => add({ do: "line-up", on, across: across ?? null, down: down ?? null, with: to })}
          >
            {words}
          </Button>
        ))}
        {[false, true].map((is_down) => (
          <Button
            key={String(is_down)}
            className="px-1 text-xs"
            title="Equal gaps; for three or more"
            why={on.length < 3 && "Choose three patches or more first"}
            onClick={() => add({ do: "space-out", on, is_down })}
          >
            {is_down ? "Space down" : "Space across"}
          </Button>
        ))}
      </div>
    </details>
  );
}
