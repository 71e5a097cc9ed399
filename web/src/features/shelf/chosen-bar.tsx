import { useState } from "react";
import { api } from "../../api/client";
import type { ShelfItem } from "../../api/generated/ShelfItem";
import { SHELF } from "../../api/shelf-query";
import { Button } from "../../ui/button";
import { Item, Menu } from "../../ui/menu";
import { saveFile } from "../../ui/save-file";
import { Toolbar } from "../../ui/toolbar";
import { useBeds, usePutOnBed } from "./beds";
import { LabelMenu, OpenAsSet } from "./labels";
import { useShelfWork } from "./shelf-work";

/** What can be done with all designs that are chosen. */
export function ChosenBar(p: {
  chosen: readonly ShelfItem[];
  /** All on the shelf. */
  items: readonly ShelfItem[];
  labels: readonly string[];
  onAll: () => void;
  onNone: () => void;
}) {
  const { chosen } = p;
  const { complain, refresh, sayGone } = useShelfWork(SHELF);
  const { data: beds } = useBeds();
  const put = usePutOnBed();
  const [isPacking, setPacking] = useState(false);
  const ids = chosen.map((d) => d.id);
  const count = `${chosen.length} ${chosen.length === 1 ? "design" : "designs"}`;

  async function remove() {
    try {
      for (const id of ids) await api.remove(id);
      p.onNone();
      sayGone(count, () => Promise.all(ids.map((id) => api.restore(id))));
    } catch (e) {
      complain(e);
    }
    void refresh();
  }

  async function take(format: "3mf" | "stl") {
    setPacking(true);
    try {
      saveFile(await api.files(ids, format), chosen.length === 1 ? "design.zip" : "designs.zip");
    } catch (e) {
      complain(e);
    }
    setPacking(false);
  }

  return (
    <Toolbar
      label="Chosen designs"
      className="sticky top-0 z-20 mb-4 flex items-center gap-2 rounded-tile bg-sunk px-3 py-2"
    >
      <b className="text-sm font-semibold">{count} chosen</b>
      <Menu trigger={<Button look="solid">Put on a bed</Button>}>
        <Item words="A new bed" onPick={() => void put(ids, null)} />
        {beds?.slice(0, 8).map((bed) => (
          <Item key={bed.id} words={bed.name} onPick={() => void put(ids, bed.id)} />
        ))}
      </Menu>
      <OpenAsSet chosen={chosen} items={p.items} />
      <LabelMenu chosen={chosen} labels={p.labels} />
      <Menu
        trigger={
          <Button why={isPacking && "It is being packed"}>{isPacking ? "Packing…" : "Take home"}</Button>
        }
      >
        <Item words="3MF of each" note="in one ZIP" onPick={() => void take("3mf")} />
        <Item words="STL of each" note="in one ZIP" onPick={() => void take("stl")} />
      </Menu>
      <Button onClick={() => void remove()}>Delete</Button>
      <span className="ml-auto flex gap-2">
        <Button onClick={p.onAll}>All</Button>
        <Button onClick={p.onNone}>None</Button>
      </span>
    </Toolbar>
  );
}
