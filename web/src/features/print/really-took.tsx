import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { refusal } from "../../api/client";
import { complain } from "../../api/complain";
import type { PrintView } from "../../api/generated/PrintView";
import { printerApi } from "../../api/printer";
import { Button } from "../../ui/button";
import { fixed } from "../../ui/numbers";
import { clock } from "./time";

/** What earlier prints of this printer took, and a place to say what this one did. */
export function ReallyTook({ print, name }: { print: PrintView; name: string }) {
  const cache = useQueryClient();
  const [draft, setDraft] = useState<string | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const { likely } = print;
  const refresh = () =>
    Promise.all(["print", "bed-print"].map((key) => cache.invalidateQueries({ queryKey: [key] })));
  const save = async () => {
    try {
      await printerApi.reallyTook(name, print.seconds, draft ?? "");
      setDraft(null);
      setRefused(null);
      await refresh();
    } catch (e) {
      setRefused(refusal(e));
    }
  };
  const forget = async () => {
    await printerApi.forgetTaken().then(refresh).catch(complain);
  };
  return (
    <div className="pb-1 text-xs text-soft">
      {likely && (
        <p data-testid="likely">
          {clock(print.seconds)} as planned; {likely.prints === 1 ? "one print" : `${likely.prints} prints`}{" "}
          of this printer took {fixed(likely.factor, 2)} times as long
          {Math.abs(likely.constant) >= 30 &&
            ` and ${clock(Math.abs(likely.constant))} ${likely.constant > 0 ? "more" : "less"}`}
          .{" "}
          <button
            type="button"
            className="font-semibold underline hover:text-glaze"
            onClick={() => void forget()}
          >
            Forget these
          </button>
        </p>
      )}
      {draft === null ? (
        <button type="button" className="font-semibold hover:text-glaze" onClick={() => setDraft("")}>
          It really took…
        </button>
      ) : (
        <form
          className="flex items-center gap-1.5 pt-1"
          onSubmit={(e) => {
            e.preventDefault();
            void save();
          }}
        >
          <label className="flex flex-1 items-center gap-1.5">
            It really took
            <input
              // biome-ignore lint/a11y/noAutofocus: the maker has just asked for it
              autoFocus
              value={draft}
              placeholder="1h35"
              aria-invalid={refused !== null}
              onChange={(e) => setDraft(e.target.value)}
              onKeyDown={(e) => e.key === "Escape" && setDraft(null)}
              className="w-20 rounded-tile border border-edge bg-field px-2 py-1 text-sm text-ink"
            />
          </label>
          <Button type="submit" className="text-xs">
            Save
          </Button>
        </form>
      )}
      {refused && draft !== null && (
        <p role="alert" className="pt-1 text-terracotta">
          {refused}
        </p>
      )}
    </div>
  );
}
