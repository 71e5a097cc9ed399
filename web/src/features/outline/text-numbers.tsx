import { type ReactNode, useState } from "react";
import type { Face } from "../../api/generated/Face";
import type { Text } from "../../api/generated/Text";
import { Button } from "../../ui/button";
import { OneOf } from "../../ui/one-of";
import { NumberField } from "../artwork/tools/tray";

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

/**
 * What is written, taken when the field is left. It stays the same field while it is saved, so that who types on at once loses
 * nothing.
 */
export function WordsField(p: { words: string; onWrite: (words: string) => void }) {
  const [draft, setDraft] = useState<{ words: string; of: string; isTyped: boolean } | null>(null);
  // A draft that was taken stands until the saved words have changed.
  const isTaken = draft !== null && !draft.isTyped && draft.of !== p.words;
  const shown = draft === null || isTaken ? p.words : draft.words;
  return (
    <textarea
      aria-label="Text"
      value={shown}
      rows={Math.min(5, shown.split("\n").length + 1)}
      spellCheck={false}
      className="w-full rounded-tile border border-edge bg-field px-2 py-1 text-sm"
      onChange={(e) => setDraft({ words: e.target.value, of: p.words, isTyped: true })}
      onBlur={() => {
        if (draft?.isTyped && draft.words !== p.words) {
          p.onWrite(draft.words);
          setDraft({ words: draft.words, of: p.words, isTyped: false });
        } else setDraft(null);
      }}
      onKeyDown={(e) => {
        if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) e.currentTarget.blur();
      }}
    />
  );
}

export function WrittenText(p: {
  text: Text;
  length: (name: string, label: string, value: number) => ReactNode;
  set: (now: Text) => void;
  children: ReactNode;
}) {
  const { text: t, set } = p;
  return (
    <div className="pb-1">
      <WordsField words={t.words} onWrite={(words) => set({ ...t, words })} />
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
      {p.length("size", "Height of capitals", t.size)}
      {p.length("spacing", "Letter spacing", t.spacing)}
      {p.length("arc", "Radius of its arc; 0 is straight", t.arc)}
      <div className="grid gap-1">
        <NumberField
          label="From line to line, in capitals"
          unit="×"
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
