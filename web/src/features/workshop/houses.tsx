import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, refusal } from "../../api/client";
import type { Workshop } from "../../api/generated/Workshop";
import { WORKSHOP } from "../../api/workshop";
import { Button } from "../../ui/button";
import { FileInput } from "../../ui/file-input";
import { Cell, Remove } from "./table";

/** House measures: renamed, removed, taken to another workshop and brought from one. */
export function Houses(p: {
  w: Workshop;
  /** The version of what is saved; bringing some saves at once, so nothing else may be waiting to be saved. */
  version: number;
  isChanged: boolean;
  set: (w: Workshop) => void;
}) {
  const { w } = p;
  const cache = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const bring = async (file: File) => {
    try {
      cache.setQueryData(WORKSHOP, await api.bringHouses(p.version, file));
      setRefused(null);
    } catch (e) {
      setRefused(refusal(e));
    }
  };
  return (
    <section className="pb-5">
      <div className="flex items-center gap-2 pb-1">
        <h3 className="mr-auto font-display text-base font-semibold">House measures</h3>
        <Button
          className="text-xs"
          why={p.isChanged && "Save or drop what is changed first"}
          onClick={() => input.current?.click()}
        >
          Bring some…
        </Button>
        <FileInput
          ref={input}
          label="File of house measures"
          accept="application/json,.json"
          tabIndex={-1}
          onFile={(file) => void bring(file)}
        />
        {w.houses.length > 0 && !p.isChanged && (
          <a
            href="/api/workshop/houses"
            download
            className="rounded-tile border border-edge px-2.5 py-1 text-xs font-semibold hover:border-glaze hover:text-glaze"
          >
            Take them home
          </a>
        )}
      </div>
      {refused && (
        <p role="alert" className="pb-1 text-sm text-terracotta">
          {refused}
        </p>
      )}
      {w.houses.length === 0 ? (
        <p className="text-sm text-soft">
          None yet. At Tiers, 'House measures' keeps a recipe's measures under a name.
        </p>
      ) : (
        <table className="w-full border-collapse text-sm">
          <tbody>
            {w.houses.map((h, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: names change while they are typed
              <tr key={i}>
                <Cell
                  label={`Name of house measures ${i + 1}`}
                  value={h.name}
                  onChange={(name) =>
                    p.set({ ...w, houses: w.houses.map((o, n) => (n === i ? { ...o, name } : o)) })
                  }
                />
                <td className="px-2 text-soft">{h.recipe.replaceAll("-", " ")}</td>
                <td className="px-2 text-right text-soft">
                  {Object.keys(h.measures).length === 0
                    ? "all as usual"
                    : `${Object.keys(h.measures).length} differ from the usual`}
                </td>
                <Remove
                  label={`Remove ${h.name}`}
                  isOff={false}
                  onPick={() => p.set({ ...w, houses: w.houses.filter((_, n) => n !== i) })}
                />
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
