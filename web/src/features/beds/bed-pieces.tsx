import { useState } from "react";
import { Link } from "wouter";
import type { BedWork } from "../../api/beds";
import type { BedDesignView } from "../../api/generated/BedDesignView";
import type { Unit } from "../../api/generated/Unit";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { rough } from "../../ui/length";
import { MeasureField } from "../../ui/measure-field";

/** A design with its number of copies. */
export function DesignRow(p: {
  design: BedDesignView;
  unit: Unit;
  onCopies: (copies: number) => Promise<unknown>;
  onChoose: () => void;
}) {
  const { design, unit } = p;
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    const copies = Number(draft);
    if (draft !== null && Number.isInteger(copies) && copies >= 0) void p.onCopies(copies);
    setDraft(null);
  };
  return (
    <li className="flex items-center gap-1.5 py-1 text-sm" data-on-bed={design.id}>
      <button type="button" onClick={p.onChoose} className="min-w-0 flex-1 text-left hover:text-glaze">
        <span className="block truncate font-semibold">{design.name}</span>
        <span className="block text-xs text-soft">
          {design.trouble
            ? "cannot be printed"
            : `${design.size.map((v) => rough(v, unit)).join(" × ")} ${unit}`}
        </span>
      </button>
      <Link
        href={`/design/${design.id}/tiers`}
        aria-label={`Open ${design.name}`}
        title="Open the design"
        className="rounded-tile p-1 text-soft hover:text-glaze"
      >
        <Icon name="pen" className="size-4" />
      </Link>
      <Button
        look="bare"
        aria-label={`One ${design.name} less`}
        onClick={() => void p.onCopies(Math.max(0, design.copies - 1))}
      >
        −
      </Button>
      <input
        value={draft ?? String(design.copies)}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === "Enter") commit();
          if (e.key === "Escape") setDraft(null);
        }}
        inputMode="numeric"
        aria-label={`Copies of ${design.name}`}
        className="w-11 rounded-tile border border-edge bg-field px-1 py-[3px] text-center text-sm"
      />
      <Button
        look="bare"
        aria-label={`One ${design.name} more`}
        onClick={() => void p.onCopies(design.copies + 1)}
      >
        +
      </Button>
    </li>
  );
}

/** Where the chosen piece lies, to be typed. */
export function PieceFields(p: {
  piece: number;
  pose: { x: number; y: number; degrees: number };
  unit: Unit;
  work: BedWork;
}) {
  const { piece, pose } = p;
  const nothing = { right: null, up: null, degrees: null };
  const put = (edit: { right?: string; up?: string; degrees?: number }) =>
    p.work.commit([{ kind: "put-at", piece, ...nothing, ...edit }]);
  return (
    <>
      <MeasureField
        label="From the left"
        meaning="Middle of the drawing, from the bed's left edge"
        value={pose.x}
        unit={p.unit}
        step={1}
        onCommit={(right) => put({ right })}
      />
      <MeasureField
        label="From the front"
        meaning="Middle of the drawing, from the bed's front edge"
        value={pose.y}
        unit={p.unit}
        step={1}
        onCommit={(up) => put({ up })}
      />
      <MeasureField
        label="Turned, degrees"
        meaning="Anticlockwise"
        value={Math.round(pose.degrees * 100) / 100}
        unit={null}
        step={15}
        onCommit={async (text) => {
          const degrees = Number(text.replace("°", "").replace(",", ".").trim());
          if (text.trim() === "" || !Number.isFinite(degrees))
            throw new Error("Type a number of degrees, such as 45.");
          return put({ degrees });
        }}
      />
    </>
  );
}
