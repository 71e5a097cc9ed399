import type { Unit } from "../api/generated/Unit";
import { fixed, local } from "./numbers";

const formats = new Map<string, Intl.NumberFormat>();

/** With so many decimals. Kept: making one takes longer than all else that a field does. */
function formatOf(least: number, most: number): Intl.NumberFormat {
  const key = `${least} ${most}`;
  const known = formats.get(key);
  if (known) return known;
  const made = new Intl.NumberFormat("en", {
    minimumFractionDigits: least,
    maximumFractionDigits: most,
    useGrouping: false,
  });
  formats.set(key, made);
  return made;
}

/** A length in millimetres as it is shown: at most two decimals, three in inches. */
export function shown(mm: number, unit: Unit, least = 0): string {
  const [value, most] = unit === "mm" ? [mm, 2] : [mm / 25.4, 3];
  return local(formatOf(Math.min(least, most), most).format(value));
}

/** A size of the whole object: one decimal, two in inches. */
export function rough(mm: number, unit: Unit): string {
  return unit === "mm" ? fixed(mm, 1) : fixed(mm / 25.4, 2);
}

/** A length with its unit. */
export function withUnit(mm: number, unit: Unit, least = 0): string {
  return `${shown(mm, unit, least)} ${unit}`;
}

/** An area: cm² or mm², square inches in inches. */
export function areaIn(mm2: number, unit: Unit): string {
  if (unit === "in") return `${fixed(mm2 / 25.4 ** 2, 2)} in²`;
  return mm2 >= 100 ? `${fixed(mm2 / 100, 1)} cm²` : `${fixed(mm2, 1)} mm²`;
}

/** Millimetres of a length as it is typed, such as 220, 5.5in or 1 1/2"; null for what is none. */
export function readLength(text: string, unit: Unit): number | null {
  const [, number = "", name = ""] = text.trim().match(/^([\d\s.,/+-]+)([a-z"″]*)$/i) ?? [];
  const each = { "": unit === "in" ? 25.4 : 1, mm: 1, cm: 10, in: 25.4, '"': 25.4, "″": 25.4 };
  const one = each[name.toLowerCase() as keyof typeof each];
  const sum = number
    .trim()
    .split(/\s+/)
    .map((part) => {
      const [over, under = "1"] = part.replace(",", ".").split("/");
      return over === "" ? Number.NaN : Number(over) / Number(under);
    })
    .reduce((a, b) => a + b, 0);
  return one !== undefined && number.trim() !== "" && Number.isFinite(sum) ? sum * one : null;
}

/** Rounds to the step's own digits, so that ten steps of 0.1 make 1. */
export function stepped(mm: number, step: number, count: number): number {
  return Number((mm + step * count).toFixed(6));
}

/** Heights of layers, mm: the first may be of another than the others. */
export interface LayerGrid {
  layer: number;
  first_layer: number;
}

/** So many layers print up to a height: those whose middle lies below it. Half a layer more is none. */
export function layersTo(mm: number, { layer, first_layer: first }: LayerGrid): number {
  return mm <= first / 2 + 1e-9 ? 0 : 1 + Math.max(0, Math.ceil((mm - first) / layer - 0.5 - 1e-9));
}

/** How high so many layers are. */
export const heightOf = (layers: number, { layer, first_layer: first }: LayerGrid): number =>
  layers === 0 ? 0 : first + (layers - 1) * layer;

/** The nearest height above the bed at which a layer ends. */
export const snapped = (mm: number, grid: LayerGrid): number =>
  Number(heightOf(Math.max(1, layersTo(mm, grid)), grid).toFixed(6));

/** The step that an arrow key means in a drawing, to the right and down; null for other keys. */
export function moveOf(e: { key: string; shiftKey: boolean; altKey: boolean }): [number, number] | null {
  const steps = stepsOf(e);
  if (steps === 0) return null;
  return e.key === "ArrowLeft" || e.key === "ArrowRight" ? [steps, 0] : [0, -steps];
}

/** How many steps an arrow key means: Shift for ten, Alt for a tenth. */
export function stepsOf(e: { key: string; shiftKey: boolean; altKey: boolean }): number {
  const way =
    e.key === "ArrowUp" || e.key === "ArrowRight"
      ? 1
      : e.key === "ArrowDown" || e.key === "ArrowLeft"
        ? -1
        : 0;
  return way * (e.shiftKey ? 10 : e.altKey ? 0.1 : 1);
}
