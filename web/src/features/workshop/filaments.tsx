import type { Filament } from "../../api/generated/Filament";
import type { Workshop } from "../../api/generated/Workshop";
import { Cell, Numeric, Remove, Table, type Unread } from "./table";

const hex = (c: readonly number[]) => `#${c.map((v) => v.toString(16).padStart(2, "0")).join("")}`;
const fromHex = (text: string): [number, number, number] => [
  Number.parseInt(text.slice(1, 3), 16),
  Number.parseInt(text.slice(3, 5), 16),
  Number.parseInt(text.slice(5, 7), 16),
];

export function Filaments({
  w,
  set,
  onUnread,
}: {
  w: Workshop;
  set: (w: Workshop) => void;
  onUnread: Unread;
}) {
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
            onUnread={onUnread}
            label={`Density of ${f.name}`}
            value={f.density}
            width="80px"
            onChange={(density) => put(i, { density })}
          />
          <Numeric
            onUnread={onUnread}
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
