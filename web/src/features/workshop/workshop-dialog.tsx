import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type ReactNode, useState } from "react";
import { ApiProblem, api, refusal } from "../../api/client";
import type { Filament } from "../../api/generated/Filament";
import type { Printer } from "../../api/generated/Printer";
import type { Workshop } from "../../api/generated/Workshop";
import { useWorkshop, WORKSHOP } from "../../api/workshop";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { DialogFrame } from "../../ui/dialog";
import { Icon } from "../../ui/icons";

const CELL = "w-full rounded-tile border border-edge bg-field px-1.5 py-0.5 text-sm";

const hex = (c: readonly number[]) => `#${c.map((v) => v.toString(16).padStart(2, "0")).join("")}`;
const fromHex = (text: string): [number, number, number] => [
  Number.parseInt(text.slice(1, 3), 16),
  Number.parseInt(text.slice(3, 5), 16),
  Number.parseInt(text.slice(5, 7), 16),
];

/** The settings that all designs share; saved together, so that half of a change is never in force. */
export function WorkshopDialog({ onClose, onSaved }: { onClose: () => void; onSaved: () => void }) {
  const cache = useQueryClient();
  const data = useWorkshop();
  const [draft, setDraft] = useState<Workshop | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const w = draft ?? data?.workshop;
  const save = async () => {
    if (!draft || !data) return onClose();
    try {
      cache.setQueryData(WORKSHOP, await api.setWorkshop(data.version, draft));
      onSaved();
      onClose();
    } catch (e) {
      setRefused(refusal(e));
      if (e instanceof ApiProblem && e.problem.code === "stale")
        void cache.invalidateQueries({ queryKey: WORKSHOP });
    }
  };
  return (
    <DialogFrame onClose={onClose} className="top-[6vh] flex max-h-[88vh] w-[min(860px,96vw)] flex-col">
      <header className="flex items-baseline gap-3 border-b border-line px-5 py-3">
        <Dialog.Title className="font-display text-xl font-semibold">Workshop</Dialog.Title>
        <span className="text-sm text-soft">printers and filaments that all designs share</span>
      </header>
      {w && (
        <div className="min-h-0 flex-1 overflow-y-auto px-5 py-3">
          <div className="flex gap-8 pb-4">
            <Choice
              label="Unit of new designs"
              value={w.unit}
              options={[
                { name: "mm", label: "Millimetres" },
                { name: "in", label: "Inches" },
              ]}
              onChoose={(unit) => setDraft({ ...w, unit: unit as Workshop["unit"] })}
            />
            <label className="flex items-center gap-2 text-sm">
              Currency
              <input
                className={`${CELL} max-w-16`}
                value={w.currency}
                onChange={(e) => setDraft({ ...w, currency: e.target.value })}
              />
            </label>
          </div>
          <Filaments w={w} set={setDraft} />
          <Printers w={w} set={setDraft} />
        </div>
      )}
      <footer className="flex items-center justify-end gap-2 border-t border-line px-5 py-3">
        {refused && (
          <p role="alert" className="mr-auto text-sm text-terracotta">
            {refused}
          </p>
        )}
        <Button onClick={onClose}>Cancel</Button>
        <Button look="solid" onClick={() => void save()}>
          Save
        </Button>
      </footer>
    </DialogFrame>
  );
}

type Part = { w: Workshop; set: (w: Workshop) => void };

function Table(p: { title: string; heads: string[]; onAdd: () => void; add: string; children: ReactNode }) {
  return (
    <section className="pb-5">
      <div className="flex items-center pb-1">
        <h3 className="font-display text-base font-semibold">{p.title}</h3>
        <Button className="ml-auto text-xs" onClick={p.onAdd}>
          {p.add}
        </Button>
      </div>
      <table className="w-full border-collapse text-sm">
        <thead>
          <tr className="text-left text-xs text-soft">
            {p.heads.map((h) => (
              <th key={h} className="px-1 pb-1 font-medium">
                {h}
              </th>
            ))}
            <th>
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>{p.children}</tbody>
      </table>
    </section>
  );
}

function Cell(p: {
  label: string;
  value: string | number;
  onChange: (text: string) => void;
  width?: string;
}) {
  return (
    <td className="px-1 py-0.5" style={p.width ? { width: p.width } : undefined}>
      <input
        aria-label={p.label}
        className={CELL}
        value={p.value}
        onChange={(e) => p.onChange(e.target.value)}
      />
    </td>
  );
}

/** A number while it is typed: what is no number yet stays text and is refused when it is saved. */
function Numeric(p: { label: string; value: number; onChange: (v: number) => void; width?: string }) {
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? String(p.value);
  return (
    <Cell
      label={p.label}
      value={shown}
      {...(p.width ? { width: p.width } : {})}
      onChange={(typed) => {
        setText(typed);
        const v = Number(typed.replace(",", "."));
        if (typed.trim() !== "" && Number.isFinite(v)) p.onChange(v);
      }}
    />
  );
}

function Filaments({ w, set }: Part) {
  const put = (i: number, change: Partial<Filament>) =>
    set({ ...w, filaments: w.filaments.map((f, n) => (n === i ? { ...f, ...change } : f)) });
  const add = () => {
    const id = `spool-${Date.now().toString(36)}`;
    const spool: Filament = {
      id,
      name: "New spool",
      material: "PLA",
      colour: [150, 150, 150],
      density: 1.24,
      price: 22,
    };
    set({ ...w, filaments: [...w.filaments, spool] });
  };
  return (
    <Table
      title="Filaments"
      heads={["", "Name", "Material", "g/cm³", `${w.currency} a kg`, ""]}
      add="Add a filament"
      onAdd={add}
    >
      {w.filaments.map((f, i) => (
        <tr key={f.id}>
          <td className="w-10 px-1">
            <input
              type="color"
              aria-label={`Colour of ${f.name}`}
              className="h-7 w-9 rounded-tile border border-edge bg-field"
              value={hex(f.colour)}
              onChange={(e) => put(i, { colour: fromHex(e.target.value) })}
            />
          </td>
          <Cell label={`Name of filament ${i + 1}`} value={f.name} onChange={(name) => put(i, { name })} />
          <Cell
            label={`Material of ${f.name}`}
            value={f.material}
            width="110px"
            onChange={(material) => put(i, { material })}
          />
          <Numeric
            label={`Density of ${f.name}`}
            value={f.density}
            width="80px"
            onChange={(density) => put(i, { density })}
          />
          <Numeric
            label={`Price of ${f.name}`}
            value={f.price}
            width="90px"
            onChange={(price) => put(i, { price })}
          />
          <td className="text-xs text-soft">{i === 0 ? "the usual one" : ""}</td>
          <Remove
            label={`Remove ${f.name}`}
            isOff={w.filaments.length === 1}
            onPick={() => set({ ...w, filaments: w.filaments.filter((_, n) => n !== i) })}
          />
        </tr>
      ))}
    </Table>
  );
}

function Remove({ label, isOff, onPick }: { label: string; isOff: boolean; onPick: () => void }) {
  return (
    <td className="w-8">
      <Button look="bare" className="size-7" aria-label={label} disabled={isOff} onClick={onPick}>
        <Icon name="close" className="size-4" />
      </Button>
    </td>
  );
}

function Printers({ w, set }: Part) {
  const put = (i: number, change: Partial<Printer>) =>
    set({ ...w, printers: w.printers.map((f, n) => (n === i ? { ...f, ...change } : f)) });
  const add = () => {
    const last = w.printers.at(-1);
    if (last) set({ ...w, printers: [...w.printers, { ...last, name: "New printer" }] });
  };
  return (
    <Table
      title="Printers"
      heads={["Used", "Name", "Bed, mm", "", "", "Nozzle", "Line", "Layer", "Loads"]}
      add="Add a printer"
      onAdd={add}
    >
      {w.printers.map((p, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: printers may share a name
        <tr key={i}>
          <td className="w-10 px-2">
            <input
              type="radio"
              name="printer"
              aria-label={`Use ${p.name}`}
              checked={w.printer === i}
              onChange={() => set({ ...w, printer: i })}
              className="accent-(--glaze)"
            />
          </td>
          <Cell label={`Name of printer ${i + 1}`} value={p.name} onChange={(name) => put(i, { name })} />
          {(["wide", "deep", "high"] as const).map((side, k) => (
            <Numeric
              key={side}
              label={`Bed of ${p.name}, ${side}`}
              value={p.bed[k] ?? 0}
              width="62px"
              onChange={(v) => put(i, { bed: p.bed.map((b, n) => (n === k ? v : b)) as Printer["bed"] })}
            />
          ))}
          <Numeric
            label={`Nozzle of ${p.name}`}
            value={p.nozzle}
            width="62px"
            onChange={(nozzle) => put(i, { nozzle })}
          />
          <Numeric
            label={`Line width of ${p.name}`}
            value={p.line}
            width="62px"
            onChange={(line) => put(i, { line })}
          />
          <Numeric
            label={`Layer of ${p.name}`}
            value={p.layer}
            width="62px"
            onChange={(layer) => put(i, { layer })}
          />
          <Numeric
            label={`Filaments that ${p.name} loads`}
            value={p.filaments}
            width="56px"
            onChange={(v) => put(i, { filaments: Math.round(v) })}
          />
          <Remove
            label={`Remove ${p.name}`}
            isOff={w.printers.length === 1}
            onPick={() =>
              set({
                ...w,
                printers: w.printers.filter((_, n) => n !== i),
                printer: Math.max(
                  0,
                  w.printer > i || w.printer === w.printers.length - 1 ? w.printer - 1 : w.printer,
                ),
              })
            }
          />
        </tr>
      ))}
    </Table>
  );
}
