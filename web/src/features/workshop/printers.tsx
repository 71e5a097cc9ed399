import { useState } from "react";
import type { Printer } from "../../api/generated/Printer";
import type { Workshop } from "../../api/generated/Workshop";
import { Cell, Numeric, Remove, Table, type Unread } from "./table";

/** The workshop without a printer; the one in use stays in use, or the one before it takes its place. */
export function withoutPrinter(w: Workshop, i: number): Workshop {
  const isMoved = w.printer > i || w.printer === w.printers.length - 1;
  return {
    ...w,
    printers: w.printers.filter((_, n) => n !== i),
    printer: Math.max(0, isMoved ? w.printer - 1 : w.printer),
  };
}

export function Printers({
  w,
  set,
  onUnread,
}: {
  w: Workshop;
  set: (w: Workshop) => void;
  onUnread: Unread;
}) {
  // Printers may share a name, and a row that goes must not leave what was typed in it to the next one.
  const [rows, setRows] = useState(() => w.printers.map((_, i) => i));
  const put = (i: number, change: Partial<Printer>) =>
    set({ ...w, printers: w.printers.map((f, n) => (n === i ? { ...f, ...change } : f)) });
  const add = () => {
    const last = w.printers.at(-1);
    if (!last) return;
    setRows([...rows, Math.max(...rows) + 1]);
    set({ ...w, printers: [...w.printers, { ...last, name: "New printer" }] });
  };
  return (
    <Table
      title="Printers"
      heads={["Used", "Name", `Bed, ${w.unit}`, "", "", "Nozzle", "Line", "Layer", "Loads"]}
      add="Add a printer"
      onAdd={add}
    >
      {w.printers.map((p, i) => (
        <tr key={rows[i]}>
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
              onUnread={onUnread}
              key={side}
              label={`Bed of ${p.name}, ${side}`}
              unit={w.unit}
              value={p.bed[k] ?? 0}
              width="62px"
              onChange={(v) => put(i, { bed: p.bed.map((b, n) => (n === k ? v : b)) as Printer["bed"] })}
            />
          ))}
          <Numeric
            onUnread={onUnread}
            label={`Nozzle of ${p.name}`}
            unit={w.unit}
            value={p.nozzle}
            width="62px"
            onChange={(nozzle) => put(i, { nozzle })}
          />
          <Numeric
            onUnread={onUnread}
            label={`Line width of ${p.name}`}
            unit={w.unit}
            value={p.line}
            width="62px"
            onChange={(line) => put(i, { line })}
          />
          <Numeric
            onUnread={onUnread}
            label={`Layer of ${p.name}`}
            unit={w.unit}
            value={p.layer}
            width="62px"
            onChange={(layer) => put(i, { layer })}
          />
          <Numeric
            onUnread={onUnread}
            label={`Filaments that ${p.name} loads`}
            value={p.filaments}
            width="56px"
            onChange={(v) => put(i, { filaments: Math.round(v) })}
          />
          <Remove
            label={`Remove ${p.name}`}
            isOff={w.printers.length === 1}
            onPick={() => {
              setRows(rows.filter((_, n) => n !== i));
              set(withoutPrinter(w, i));
            }}
          />
        </tr>
      ))}
    </Table>
  );
}
