import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { thumbnailUrl } from "../api/client";
import type { ShelfItem } from "../api/generated/ShelfItem";
import { shelfQuery } from "../api/shelf-query";

/** Designs of the shelf to press, found by their names; `noteOf` stands below each. */
export function DesignTiles(p: {
  label: string;
  /** Which of them; all where it is left out. */
  isFor?: (d: ShelfItem) => boolean;
  noteOf: (d: ShelfItem) => string;
  onPick: (d: ShelfItem) => void;
  /** What is said where none is found, by whether a name was typed. */
  none: (isTyped: boolean) => string;
}) {
  const { data: items } = useQuery(shelfQuery);
  const [search, setSearch] = useState("");
  const wanted = search.trim().toLowerCase();
  const found = items?.filter((d) => (p.isFor?.(d) ?? true) && d.name.toLowerCase().includes(wanted));
  return (
    <>
      <input
        value={search}
        onChange={(e) => setSearch(e.target.value)}
        placeholder="Search by name"
        aria-label="Search by name"
        className="mb-3 w-full rounded-tile border border-edge bg-field px-2 py-1.5 text-sm"
      />
      <ul
        className="grid max-h-96 grid-cols-4 gap-1.5 overflow-y-auto max-sm:grid-cols-2"
        aria-label={p.label}
      >
        {found?.map((d) => (
          <li key={d.id}>
            <button
              type="button"
              className="flex h-full w-full flex-col items-center gap-1.5 rounded-tile bg-sunk p-2 text-xs font-semibold hover:text-glaze"
              onClick={() => p.onPick(d)}
            >
              <span className="flex h-20 w-full items-center justify-center">
                <img
                  src={thumbnailUrl(d.id, d.version)}
                  alt=""
                  loading="lazy"
                  className="max-h-18 max-w-full"
                />
              </span>
              <span className="w-full truncate">{d.name}</span>
              <span className="font-normal text-soft">{p.noteOf(d)}</span>
            </button>
          </li>
        ))}
      </ul>
      {found?.length === 0 && <p className="py-6 text-center text-sm text-soft">{p.none(wanted !== "")}</p>}
    </>
  );
}
