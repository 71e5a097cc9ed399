import { useQuery } from "@tanstack/react-query";
import { useEffect, useId, useRef, useState } from "react";
import type { Bench } from "../../api/bench";
import { api } from "../../api/client";
import type { Credit } from "../../api/generated/Credit";
import { useNotices } from "../../state/notices";
import { Button } from "../../ui/button";
import { Group } from "../../ui/panel";

const FIELDS: [keyof Credit, string, string][] = [
  ["maker", "Drawn by", "Who drew or photographed it"],
  ["source", "From", "Where it comes from"],
  ["licence", "Licence", "CC0-1.0, CC-BY-4.0, my own …"],
  ["note", "Permission", "Who allowed what, and when"],
];

/** Whose picture it is, and on what terms; goes into 3MF and SVG. */
export function CreditGroup({ bench }: { bench: Bench }) {
  const { credit, name } = bench.design.document;
  const say = useNotices((s) => s.say);
  const text = [
    `“${name}”`,
    credit.maker && `drawn by ${credit.maker}`,
    credit.source,
    credit.licence,
    credit.note,
  ]
    .filter(Boolean)
    .join(", ");
  const hidden = useRef<HTMLTextAreaElement>(null);
  const { id, document: design } = bench.design;
  const { data: offered } = useQuery({
    queryKey: ["offered-credit", id, design.artwork.hash],
    queryFn: () => api.offeredCredit(id),
    enabled: bench.result.picture?.is_drawing === true,
    retry: false,
  });
  const says = offered ? FIELDS.flatMap(([key]) => offered[key] || []) : [];
  const isTaken = offered && FIELDS.every(([key]) => !offered[key] || offered[key] === credit[key]);

  async function copy() {
    try {
      await navigator.clipboard.writeText(text);
    } catch {
      // Over plain HTTP there is no clipboard interface; a selection can still be copied.
      hidden.current?.select();
      document.execCommand("copy");
    }
    say({ text: "The credit is copied", hint: text, isBad: false, action: null });
  }

  return (
    <Group title="Credit" note="goes into the files">
      {offered && says.length > 0 && !isTaken && (
        <div className="mb-1 rounded-tile border border-line bg-sunk px-2 py-1.5 text-xs" data-offered>
          <p className="pb-1">The file says: {says.join(", ")}</p>
          <Button
            className="text-xs"
            onClick={() =>
              bench.change([
                {
                  kind: "set-credit",
                  credit: {
                    maker: offered.maker || credit.maker,
                    source: offered.source || credit.source,
                    licence: offered.licence || credit.licence,
                    note: credit.note,
                  },
                },
              ])
            }
          >
            Take it over
          </Button>
        </div>
      )}
      {FIELDS.map(([key, label, hint]) => (
        <Line
          key={key}
          label={label}
          hint={hint}
          value={credit[key]}
          onSave={(value) => bench.change([{ kind: "set-credit", credit: { ...credit, [key]: value } }])}
        />
      ))}
      <div className="flex justify-end pt-1.5">
        <Button className="text-xs" onClick={() => void copy()}>
          Copy as text
        </Button>
      </div>
      <textarea ref={hidden} readOnly value={text} tabIndex={-1} aria-hidden="true" className="sr-only" />
    </Group>
  );
}

function Line(p: { label: string; hint: string; value: string; onSave: (v: string) => void }) {
  const id = useId();
  const [draft, setDraft] = useState(p.value);
  useEffect(() => setDraft(p.value), [p.value]);
  return (
    <div className="flex items-center gap-2 py-0.5 text-sm">
      <label htmlFor={id} className="w-20">
        {p.label}
      </label>
      <input
        id={id}
        value={draft}
        placeholder={p.hint}
        maxLength={500}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={() => draft.trim() !== p.value && p.onSave(draft)}
        onKeyDown={(e) => {
          if (e.key === "Enter") e.currentTarget.blur();
          if (e.key === "Escape") setDraft(p.value);
        }}
        className="min-w-0 flex-1 rounded-tile border border-edge bg-field px-2 py-1 text-sm placeholder:text-xs placeholder:text-soft"
      />
    </div>
  );
}
