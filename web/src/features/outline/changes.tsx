import { useState } from "react";
import type { Bench } from "../../api/bench";
import type { AstrayView } from "../../api/generated/AstrayView";
import type { Change } from "../../api/generated/Change";
import type { Edit } from "../../api/generated/Edit";
import type { Entry } from "../../api/generated/Entry";
import type { Spot } from "../../api/generated/Spot";
import { Button } from "../../ui/button";
import { withUnit } from "../../ui/length";
import { MeasureField } from "../../ui/measure-field";
import { Group } from "../../ui/panel";
import { nameOf } from "./change-names";
import { hasPanel } from "./entry-panel";
import { Numbers } from "./numbers";

/** Entries that are shown at once; a list may have two thousand. */
const MOST_SHOWN = 60;

/** The ordered list of what is done to the outline: each can be changed, moved, switched off and taken out later. */
export function Changes(p: {
  bench: Bench;
  /** The chosen patches. */
  on: Spot[];
  onNodes: (entry: number) => void;
  /** The entry whose panel is open, and how to open another's. */
  open: number | null;
  onOpen: (entry: number | null) => void;
}) {
  const { bench } = p;
  const list = bench.design.document.changes;
  const astray = bench.result.outline?.astray ?? [];
  const gaps = astray.filter((a) => a.gap !== null);
  const [isLong, setLong] = useState(false);
  if (list.length === 0) return null;
  const hidden = isLong ? 0 : Math.max(0, list.length - MOST_SHOWN);
  return (
    <Group title="Changes" note={`${list.length}`}>
      {gaps.length > 0 && <Gaps bench={bench} gaps={gaps} />}
      <ol aria-label="Changes of the outline">
        {hidden > 0 && (
          <li>
            <Button className="w-full text-xs" onClick={() => setLong(true)}>
              Show the first {hidden} too
            </Button>
          </li>
        )}
        {list.slice(hidden).map((e, i) => (
          <EntryRow
            key={e.id}
            bench={bench}
            on={p.on}
            entry={e}
            place={hidden + i}
            last={list.length - 1}
            astray={astray.find((a) => a.id === e.id)}
            onNodes={p.onNodes}
            isOpen={p.open === e.id}
            onOpen={(open) => p.onOpen(open ? e.id : null)}
          />
        ))}
      </ol>
    </Group>
  );
}

/** Open lines with their gaps, and all under a size closed at once. */
function Gaps({ bench, gaps }: { bench: Bench; gaps: AstrayView[] }) {
  const unit = bench.design.document.unit;
  return (
    <div className="mb-1 rounded-tile bg-blush px-2 py-1 text-xs" data-gaps={gaps.length}>
      <p>
        {gaps.length === 1 ? "One line is" : `${gaps.length} lines are`} open:{" "}
        {gaps.map((g) => withUnit(g.gap ?? 0, unit)).join(", ")}
      </p>
      <MeasureField
        label="Close gaps up to"
        value={1}
        unit={unit}
        step={0.5}
        onCommit={(value) => bench.commit([{ kind: "close-gaps", value }])}
      />
    </div>
  );
}

function EntryRow(p: {
  bench: Bench;
  on: Spot[];
  entry: Entry;
  place: number;
  last: number;
  astray: AstrayView | undefined;
  onNodes: (entry: number) => void;
  isOpen: boolean;
  onOpen: (open: boolean) => void;
}) {
  const { bench, place } = p;
  const { id, is_on, change } = p.entry;
  const name = nameOf(change);
  const order = (to: number) => bench.change([{ kind: "order-change", id, to }]);
  return (
    <li
      className="mt-1 rounded-tile border border-line px-2 py-1"
      data-change={change.do}
      data-off={!is_on || undefined}
    >
      <div className="flex items-center gap-1 text-sm">
        <label className="flex min-w-0 flex-1 items-center gap-2 font-semibold">
          <input
            type="checkbox"
            checked={is_on}
            onChange={(e) => bench.change([{ kind: "switch-change", id, is_on: e.target.checked }])}
            className="accent-glaze"
          />
          <span className={is_on ? "truncate" : "truncate text-soft line-through"}>
            {place + 1} {name}
          </span>
        </label>
        <Button
          className="size-6 px-0"
          aria-label={`${name} earlier`}
          why={place === 0 && "It is the first"}
          onClick={() => order(place - 1)}
        >
          ↑
        </Button>
        <Button
          className="size-6 px-0"
          aria-label={`${name} later`}
          why={place === p.last && "It is the last"}
          onClick={() => order(place + 1)}
        >
          ↓
        </Button>
        <Button
          className="size-6 px-0"
          aria-label={`Remove ${name}`}
          onClick={() => bench.change([{ kind: "remove-change", id }])}
        >
          ×
        </Button>
      </div>
      {is_on && p.astray && <Astray bench={bench} on={p.on} astray={p.astray} change={change} />}
      {!hasPanel(change) && <Numbers bench={bench} entry={p.entry} onNodes={() => p.onNodes(id)} />}
      {hasPanel(change) && is_on && (
        <Button
          className="my-0.5 w-full text-xs"
          aria-expanded={p.isOpen}
          onClick={() => p.onOpen(!p.isOpen)}
        >
          {p.isOpen ? "Its panel is open" : "Its measures"}
        </Button>
      )}
    </li>
  );
}

/** What an entry does not do, and what can be done about it. */
function Astray(p: { bench: Bench; on: Spot[]; astray: AstrayView; change: Change }) {
  const { bench, astray: a, change } = p;
  const unit = bench.design.document.unit;
  const words =
    a.lost.length > 0
      ? `${a.lost.length === 1 ? "Its patch is" : `${a.lost.length} patches are`} gone`
      : a.has_moved_on
        ? "The picture has moved on"
        : a.gap !== null
          ? `Open: ${withUnit(a.gap, unit)} from end to end`
          : a.missing
            ? `Not in this face: ${[...a.missing].join(" ")}`
            : "Nothing is left of it";
  const button = (label: string, edit: Edit, title?: string) => (
    <Button className="px-1 text-xs" title={title} onClick={() => bench.change([edit])}>
      {label}
    </Button>
  );
  const isLost = a.lost.length > 0;
  const isOwn = change.do === "nodes" && (isLost || a.has_moved_on);
  return (
    <div
      className="my-1 flex flex-wrap items-center gap-1 rounded-xs bg-blush px-1.5 py-1 text-xs text-terracotta"
      data-astray
    >
      <span className="mr-auto">{words}</span>
      {isLost &&
        p.on.length > 0 &&
        button(
          p.on.length === 1 ? "Use the chosen patch" : `Use the ${p.on.length} chosen`,
          { kind: "repoint-change", id: a.id, to: p.on },
          "The change works on the chosen patches instead of those that are gone",
        )}
      {isLost &&
        !isOwn &&
        button(
          "Do without",
          { kind: "repoint-change", id: a.id, to: [] },
          "Takes the lost patches out of the change; with none left it goes",
        )}
      {isOwn && button("Stay", { kind: "keep-nodes", id: a.id })}
      {isOwn && button("Follow", { kind: "switch-change", id: a.id, is_on: false })}
      {a.gap !== null && button("Join", { kind: "close-lines", ids: [a.id], how: "join" })}
      {a.gap !== null && button("Extend", { kind: "close-lines", ids: [a.id], how: "extend" })}
      {a.gap !== null &&
        change.do === "draw" &&
        button("Give it a width", { kind: "set-change", id: a.id, change: { ...change, width: 2 } })}
    </div>
  );
}
