import { type ReactNode, useState } from "react";
import type { Unit } from "../../api/generated/Unit";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { readLength, shown } from "../../ui/length";

export const CELL = "w-full rounded-tile border border-edge bg-field px-1.5 py-0.5 text-sm";

/** Notes what was typed into a field and is no number; null once it is one. */
export type Unread = (label: string, text: string | null) => void;

export function Table(p: {
  title: string;
  heads: readonly string[];
  onAdd: () => void;
  add: string;
  children: ReactNode;
}) {
  return (
    <section className="pb-5">
      <div className="flex items-center pb-1">
        <h3 className="font-display text-base font-semibold">{p.title}</h3>
        <Button className="ml-auto text-xs" onClick={p.onAdd}>
          {p.add}
        </Button>
      </div>
      <div className="overflow-x-auto">
        <table className="w-full min-w-140 border-collapse text-sm">
          <thead>
            <tr className="text-left text-xs text-soft">
              {p.heads.map((h, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: several columns have no head
                <th key={i} className="px-1 pb-1 font-medium">
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
      </div>
    </section>
  );
}

export function Cell(p: {
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

/**
 * A number while it is typed. What is no number stays as it is typed and is told, so that saving refuses it: the number
 * before it must not be saved in its place.
 */
export function Numeric(p: {
  label: string;
  value: number;
  onChange: (v: number) => void;
  onUnread: Unread;
  width?: string;
  /** A length in millimetres is shown and typed in this unit, or in another one that is typed behind it. */
  unit?: Unit;
}) {
  const { unit } = p;
  const [text, setText] = useState<string | null>(null);
  return (
    <Cell
      label={p.label}
      value={text ?? (unit ? shown(p.value, unit) : String(p.value))}
      {...(p.width ? { width: p.width } : {})}
      onChange={(typed) => {
        setText(typed);
        const v = unit ? readLength(typed, unit) : numberOf(typed);
        p.onUnread(p.label, v === null ? typed : null);
        if (v !== null) p.onChange(v);
      }}
    />
  );
}

function numberOf(typed: string): number | null {
  const v = typed.trim() === "" ? Number.NaN : Number(typed.replace(",", "."));
  return Number.isFinite(v) ? v : null;
}

export function Remove({ label, isOff, onPick }: { label: string; isOff: boolean; onPick: () => void }) {
  return (
    <td className="w-8">
      <Button
        look="bare"
        className="size-7"
        aria-label={label}
        why={isOff && "One has to stay"}
        onClick={onPick}
      >
        <Icon name="close" className="size-4" />
      </Button>
    </td>
  );
}
