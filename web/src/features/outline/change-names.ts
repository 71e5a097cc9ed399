import type { Change } from "../../api/generated/Change";
import type { Shape } from "../../api/generated/Shape";

const NAMES: Record<Change["do"], string> = {
  join: "Join",
  "take-away": "Take away",
  common: "Keep what is common",
  "fill-holes": "Fill holes",
  rim: "Rim",
  grow: "Grow",
  thicken: "Thicken",
  cut: "Cut",
  bridge: "Bridge",
  fewer: "Fewer nodes",
  smooth: "Smooth",
  nodes: "Own nodes",
  draw: "Drawn line",
  place: "Move, turn, scale",
  "line-up": "Line up",
  "space-out": "Space out",
  mirror: "Mirror",
  repeat: "Repeat",
  shape: "Shape",
  text: "Text",
  paste: "Added patches",
};

export const formName = (s: Shape) =>
  s.form === "ellipse" ? "Circle" : s.form[0]?.toUpperCase() + s.form.slice(1);

/** What an entry of the list is called. */
export function nameOf(c: Change): string {
  if (c.do === "shape") return formName(c.shape);
  if (c.do === "text") return `Text '${c.text.words.split("\n")[0]?.slice(0, 14) ?? ""}'`;
  if (c.do === "place" && c.is_copy) return "Copy";
  return NAMES[c.do];
}
