import type { ReactNode } from "react";
import type { Face } from "../../api/generated/Face";
import type { Text } from "../../api/generated/Text";
import { Button } from "../../ui/button";
import { NumberField } from "../artwork/tools/tray";
import { OneOf } from "./one-of";

const ALIGNS = ["left", "middle", "right"] as const;

const FACES: [Face, string][] = [
  ["plain", "Plain"],
  ["rounded", "Rounded"],
  ["narrow", "Narrow capitals"],
  ["slab", "Slab"],
  ["brush", "Brush script"],
  ["script", "Pen script"],
  ["stencil", "Stencil"],
  ["blackletter", "Blackletter"],
  ["engraved", "Engraved capitals"],
  ["symbols", "Symbols"],
];

/** Signs of the symbols face that makers ask for most. */
const SIGNS = "♥★☆✿❀☀☁☂✂✓✝☕♪♫⚓✈→";

export function WrittenText(p: {
  text: Text;
  length: (name: string, label: string, value: number) => ReactNode;
  set: (now: Text) => void;
  children: ReactNode;
}) {
  const { text: t, set } = p;
  return (
    <div className="pb-1">
      <textarea
        key={t.words}
        aria-label="Text"
        defaultValue={t.words}
        rows={Math.min(5, t.words.split("\n").length + 1)}
        spellCheck={false}
        className="w-full rounded-tile border border-edge bg-field px-2 py-1 text-sm"
        onBlur={(e) => e.target.value !== t.words && set({ ...t, words: e.target.value })}
        onKeyDown={(e) => {
          if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) e.currentTarget.blur();
        }}
      />
      <div className="flex gap-1 pt-1">
        <select
          aria-label="Face"
          value={t.face}
          onChange={(e) => set({ ...t, face: e.target.value as Face })}
          className="min-w-0 flex-1 rounded-tile border border-edge bg-field px-1 py-1 text-xs font-semibold"
        >
          {FACES.map(([face, words]) => (
            <option key={face} value={face}>
              {words}
            </option>
          ))}
        </select>
        <OneOf all={ALIGNS} now={t.align} onChoose={(align) => set({ ...t, align })} />
      </div>
      {t.face === "symbols" && (
        <div className="flex flex-wrap gap-0.5 pt-1">
          {[...SIGNS].map((sign) => (
            <Button
              key={sign}
              className="size-6 px-0 text-xs"
              aria-label={`Add ${sign}`}
              onClick={() => set({ ...t, words: t.words === "Name" ? sign : t.words + sign })}
            >
              {sign}
            </Button>
          ))}
        </div>
      )}
      {p.length("size", "Capitals", t.size)}
      {p.length("spacing", "Letter spacing", t.spacing)}
      {p.length("arc", "Arc radius (0: straight)", t.arc)}
      <div className="grid grid-cols-2 gap-1">
        <NumberField
          label="Lines"
          unit="× high"
          min={0.5}
          max={5}
          value={t.leading}
          onChange={(leading) => set({ ...t, leading })}
        />
        {p.children}
      </div>
    </div>
  );
}
