import type { Change } from "../../api/generated/Change";
import type { Shape } from "../../api/generated/Shape";
import type { Spot } from "../../api/generated/Spot";
import type { Cubic } from "./lines";
import { mirrorLine } from "./symmetry";
import { doubled, placed } from "./tools/tool";

type Action = { words: string; title?: string; least: number; change: Change };

/** What can be done to the patches that are chosen. */
export function actionsFor(
  on: Spot[],
  middle: [number, number],
  mm: number,
  pieces: () => Cubic[],
): Action[] {
  return [
    { words: "Join", least: 2, change: { do: "join", on } },
    { words: "Take away", least: 2, change: { do: "take-away", from: on.slice(0, 1), what: on.slice(1) } },
    { words: "Keep overlap", least: 2, change: { do: "common", on } },
    {
      words: "Bridge",
      title: "Bars at the nearest places",
      least: 2,
      change: { do: "bridge", on, width: 2 },
    },
    { words: "Fill holes", least: 1, change: { do: "fill-holes", on } },
    { words: "Rim", least: 1, change: { do: "rim", on, width: 2 } },
    { words: "Grow", least: 1, change: { do: "grow", on, by: 1, corner: "round" } },
    {
      words: "Thicken",
      title: "Only what is thinner than a width",
      least: 1,
      change: { do: "thicken", on, width: 1.2 },
    },
    {
      words: "Smooth",
      title: "Small dents and bumps go, corners stay",
      least: 1,
      change: { do: "smooth", on, radius: 0.5 },
    },
    { words: "Fewer nodes", least: 1, change: { do: "fewer", on, deviation: 0.05 } },
    { words: "Move", title: "Move, turn, scale by numbers", least: 1, change: placed(on) },
    { words: "Flip", least: 1, change: placed(on, { flip: true }) },
    {
      words: "Double",
      title: "A copy beside it (Ctrl D)",
      least: 1,
      change: doubled(on, mm),
    },
    {
      words: "Mirror",
      title: "A half or a quarter completed, across its straight side or its axis",
      least: 1,
      // Looked for only when it is asked for.
      get change(): Change {
        return { do: "mirror", on, ...mirrorLine(pieces(), middle), is_quarter: false };
      },
    },
    { words: "Repeat", least: 1, change: { do: "repeat", on, centre: middle, times: 6, is_mirrored: false } },
    {
      words: "To the middle",
      title: "Centre on the object",
      least: 1,
      change: { do: "line-up", on, across: "middle", down: "middle", with: "object" },
    },
  ];
}

export const SHAPES: [string, Shape][] = [
  ["Circle", { form: "ellipse", width: 20, height: 20 }],
  ["Rectangle", { form: "rectangle", width: 30, height: 20, corner: 3 }],
  ["Polygon", { form: "polygon", sides: 6, width: 20 }],
  ["Star", { form: "star", points: 5, width: 20, inner: 9 }],
  ["Ring", { form: "ring", width: 8, hole: 4 }],
  ["Eyelet", { form: "eyelet", width: 9, hole: 4, foot: 7 }],
];
