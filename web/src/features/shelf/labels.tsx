import { useState } from "react";
import { Link, useLocation } from "wouter";
import { api } from "../../api/client";
import type { ShelfItem } from "../../api/generated/ShelfItem";
import { SHELF } from "../../api/shelf-query";
import { Button } from "../../ui/button";
import { Item, Menu } from "../../ui/menu";
import { NameDialog } from "../../ui/name-dialog";
import { useShelfWork } from "./shelf-work";

/** All labels in use, in the order of the alphabet. */
export function labelsOf(items: readonly ShelfItem[]): string[] {
  const all = new Set(items.flatMap((d) => d.labels));
  return [...all].sort((a, b) => a.localeCompare(b, "en", { numeric: true }));
}

/** Which label the shelf shows; pressing it again shows all. */
export function LabelFilter(p: {
  labels: readonly string[];
  chosen: string | null;
  onChoose: (label: string | null) => void;
}) {
  if (p.labels.length === 0) return null;
  return (
    // biome-ignore lint/a11y/useSemanticElements: these are buttons, no fields of a form
    <div role="group" aria-label="Labels" className="flex flex-wrap gap-1.5 pb-3">
      {p.labels.map((label) => (
        <Button
          key={label}
          className="text-xs"
          aria-pressed={p.chosen === label}
          onClick={() => p.onChoose(p.chosen === label ? null : label)}
        >
          {label}
        </Button>
      ))}
      {p.chosen !== null && (
        <Link
          href={setPath(p.chosen)}
          className="self-center px-1 text-xs font-semibold text-glaze hover:underline"
        >
          Work on all of them together
        </Link>
      )}
    </div>
  );
}

/** Where designs with a label are worked on together. */
const setPath = (label: string) => `/set?${new URLSearchParams({ label })}`;

/** Opens all that are chosen as a set: by the label that they alone have, or by a new one. */
export function OpenAsSet(p: { chosen: readonly ShelfItem[]; items: readonly ShelfItem[] }) {
  const { chosen, items } = p;
  const { refresh } = useShelfWork(SHELF);
  const [, go] = useLocation();
  const [isNaming, setNaming] = useState(false);
  const own = chosen[0]?.labels.find(
    (label) =>
      chosen.every((d) => d.labels.includes(label)) &&
      items.filter((d) => d.labels.includes(label)).length === chosen.length,
  );
  return (
    <>
      <Button onClick={() => (own ? go(setPath(own)) : setNaming(true))}>Work on together</Button>
      {isNaming && (
        <NameDialog
          title="Name of the set"
          note="They get it as a label. What is changed on the set's page is changed for all of them."
          name=""
          action="Open"
          onClose={() => setNaming(false)}
          onName={async (name) => {
            await api.label(
              chosen.map((d) => d.id),
              [name],
              [],
            );
            await refresh();
            go(setPath(name.trim()));
          }}
        />
      )}
    </>
  );
}

/** Gives labels to all that are chosen, or takes them away. */
export function LabelMenu(p: { chosen: readonly ShelfItem[]; labels: readonly string[] }) {
  const { chosen } = p;
  const { attempt, refresh } = useShelfWork(SHELF);
  const [isNaming, setNaming] = useState(false);
  const ids = chosen.map((d) => d.id);
  return (
    <>
      <Menu trigger={<Button>Label</Button>}>
        <Item words="New label…" onPick={() => setNaming(true)} />
        {p.labels.map((label) => {
          const count = chosen.filter((d) => d.labels.includes(label)).length;
          const hasAll = count === chosen.length;
          return (
            <Item
              key={label}
              words={label}
              note={hasAll ? "take away" : count > 0 ? `on ${count}` : ""}
              onPick={() => attempt(api.label(ids, hasAll ? [] : [label], hasAll ? [label] : []))}
            />
          );
        })}
      </Menu>
      {isNaming && (
        <NameDialog
          title="New label"
          note={`For the ${chosen.length === 1 ? "chosen design" : `${chosen.length} chosen designs`}.`}
          name=""
          action="Label"
          onClose={() => setNaming(false)}
          onName={async (name) => {
            await api.label(ids, [name], []);
            await refresh();
          }}
        />
      )}
    </>
  );
}
