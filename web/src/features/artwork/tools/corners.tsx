import { useState } from "react";
import type { Bench } from "../../../api/bench";
import { ApiProblem } from "../../../api/client";
import type { Sheet } from "../../../api/generated/Sheet";
import { Button } from "../../../ui/button";
import type { BoardEvents, BoardView } from "../board";
import { apply, type Px } from "../frame";
import { Handle } from "./handle";
import { LengthField, Tray } from "./tray";

const SHEETS: [Sheet["kind"], string][] = [
  ["a4", "A4, 210 × 297 mm"],
  ["letter", "Letter, 8.5 × 11 in"],
  ["card", "Bank card, 85.6 × 54 mm"],
  ["other", "Another rectangle"],
];
const NAMES = ["Top left corner", "Top right corner", "Bottom right corner", "Bottom left corner"];

/** Makes a sheet that was photographed at a slant a rectangle of its true size. */
export function useCorners(bench: Bench, onDone: () => void) {
  const picture = bench.result.picture;
  const [x, y, w, h] = picture?.part ?? [0, 0, 1, 1];
  const [corners, setCorners] = useState<Px[]>([
    [x + w * 0.2, y + h * 0.2],
    [x + w * 0.8, y + h * 0.2],
    [x + w * 0.8, y + h * 0.8],
    [x + w * 0.2, y + h * 0.8],
  ]);
  const [kind, setKind] = useState<Sheet["kind"]>("a4");
  const [sides, setSides] = useState<[number, number]>([100, 50]);
  const [refused, setRefused] = useState<string | null>(null);
  const isStraight = bench.design.document.prepare.straighten !== null;
  const events: BoardEvents = {};
  const overlay = (view: BoardView) => {
    if (isStraight) return null;
    const d = `M${corners.map((c) => view.toScreen(c).join(" ")).join("L")}Z`;
    return (
      <>
        <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
          <path d={d} fill="#b4512b" fillOpacity={0.12} stroke="#fff" strokeWidth={4} />
          <path d={d} fill="none" stroke="#b4512b" strokeWidth={2} />
        </svg>
        {corners.map((at, k) => (
          <Handle
            key={NAMES[k]}
            view={view}
            at={at}
            label={NAMES[k] ?? ""}
            catches
            onMove={(to) => setCorners((now) => now.map((c, n) => (n === k ? to : c)))}
          />
        ))}
      </>
    );
  };
  async function straighten() {
    if (!picture) return;
    const sheet: Sheet =
      kind === "other" ? { kind, long: Math.max(...sides), short: Math.min(...sides) } : { kind };
    const all = corners.map((c) => apply(picture.to_original, c)) as [Px, Px, Px, Px];
    try {
      await bench.commit([{ kind: "straighten", straighten: { corners: all, sheet } }]);
      onDone();
    } catch (e) {
      setRefused(e instanceof ApiProblem ? `${e.problem.detail}. ${e.problem.hint}` : String(e));
    }
  }
  const tray = isStraight ? (
    <Tray words="The sheet is straightened and tells the true size." onDone={onDone}>
      <Button className="text-xs" onClick={() => bench.change([{ kind: "straighten", straighten: null }])}>
        Take it back
      </Button>
    </Tray>
  ) : (
    <Tray words="Put the four corners on a sheet or card that lies in the photo." onDone={onDone}>
      {refused && (
        <span role="alert" className="text-xs text-terracotta">
          {refused}
        </span>
      )}
      <select
        aria-label="What lies there"
        value={kind}
        onChange={(e) => setKind(e.target.value as Sheet["kind"])}
        className="rounded-tile border border-edge bg-field px-2 py-1 text-sm"
      >
        {SHEETS.map(([k, words]) => (
          <option key={k} value={k}>
            {words}
          </option>
        ))}
      </select>
      {kind === "other" && (
        <>
          <LengthField
            label="sides"
            unit={bench.design.document.unit}
            min={1}
            max={5000}
            value={sides[0]}
            onChange={(v) => setSides([v, sides[1]])}
          />
          <LengthField
            label="×"
            unit={bench.design.document.unit}
            min={1}
            max={5000}
            value={sides[1]}
            onChange={(v) => setSides([sides[0], v])}
          />
        </>
      )}
      <Button look="solid" className="text-xs" onClick={() => void straighten()}>
        Straighten
      </Button>
    </Tray>
  );
  return { events, overlay, tray };
}
