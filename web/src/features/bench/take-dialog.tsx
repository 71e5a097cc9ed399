import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useDeferredValue, useState } from "react";
import type { Bench } from "../../api/bench";
import { api, refusal, severalUrl } from "../../api/client";
import { useWorkshop, WORKSHOP } from "../../api/workshop";
import { Button } from "../../ui/button";
import { DialogFrame } from "../../ui/dialog";
import { homeFiles, lastSeveral, tookSeveral } from "../../ui/take-home";

/** What a pattern of file names may hold. */
const WORDS = ["{design}", "{recipe}", "{width}", "{height}"];

/** Several files at once, and what all files are called. */
export function TakeDialog({ bench, onClose }: { bench: Bench; onClose: () => void }) {
  const { design, result } = bench;
  const cache = useQueryClient();
  const files = homeFiles(design.id, result.solid);
  const [chosen, setChosen] = useState(() => lastSeveral().filter((f) => files.some((x) => x.format === f)));
  const shop = useWorkshop();
  const kept = shop?.workshop.file_names ?? "{design}";
  const [typed, setTyped] = useState<string | null>(null);
  const pattern = typed ?? kept;
  const asked = useDeferredValue(pattern);
  const { data: name, error } = useQuery({
    queryKey: ["file-name", design.id, design.version, asked],
    queryFn: () => api.fileName(design.id, asked),
    placeholderData: (old) => old,
    retry: false,
  });
  const [refused, setRefused] = useState<string | null>(null);
  const [isTaking, setTaking] = useState(false);
  const many = chosen.length > 1;
  const stem = name?.replace(/\.stl$/, "") ?? "";

  async function take() {
    setTaking(true);
    try {
      if (shop && pattern !== kept) {
        const workshop = { ...shop.workshop, file_names: pattern };
        cache.setQueryData(WORKSHOP, await api.setWorkshop(shop.version, workshop));
      }
      tookSeveral(chosen);
      const link = document.createElement("a");
      const [one] = files.filter((f) => f.format === chosen[0]);
      link.href = many || !one ? severalUrl(design.id, chosen) : one.href;
      link.download = "";
      link.click();
      onClose();
    } catch (e) {
      setRefused(refusal(e));
    }
    setTaking(false);
  }

  return (
    <DialogFrame onClose={onClose} className="top-[12vh] w-[min(520px,94vw)] p-5">
      <Dialog.Title className="pb-3 font-display text-lg font-semibold">Take home</Dialog.Title>
      <fieldset className="pb-4">
        <legend className="pb-1 text-sm text-soft">Which files</legend>
        {files.map((f) => (
          <label key={f.format} className="flex items-baseline gap-2.5 py-1 text-sm pointer-coarse:py-2">
            <input
              type="checkbox"
              className="accent-glaze"
              checked={chosen.includes(f.format)}
              onChange={(e) =>
                setChosen(
                  e.target.checked ? [...chosen, f.format] : chosen.filter((other) => other !== f.format),
                )
              }
            />
            <span className="font-semibold">{f.words}</span>
            <span className="ml-auto text-xs text-soft">{f.note}</span>
          </label>
        ))}
      </fieldset>
      <label className="block text-sm">
        <span className="text-soft">What files are called, for all designs</span>
        <input
          value={pattern}
          onChange={(e) => setTyped(e.target.value)}
          spellCheck={false}
          maxLength={80}
          aria-invalid={error !== null}
          aria-describedby="file-name"
          className="mt-1 w-full rounded-tile border border-edge bg-field px-2 py-1.5 text-sm"
        />
      </label>
      <div className="flex flex-wrap gap-1.5 pt-1.5">
        {WORDS.map((w) => (
          <Button
            key={w}
            className="px-1.5 text-xs"
            aria-label={`Add ${w} to the name`}
            onClick={() => setTyped(`${pattern.trimEnd()} ${w}`.trimStart())}
          >
            {w}
          </Button>
        ))}
      </div>
      <p id="file-name" className="min-h-10 pt-2 text-sm" role={error || refused ? "alert" : "status"}>
        {refused || error ? (
          <span className="text-terracotta">{refused ?? refusal(error)}</span>
        ) : (
          <>
            <span className="text-soft">This one: </span>
            <b className="font-semibold break-words" data-testid="file-name">
              {many ? `${stem}.zip` : name}
            </b>
          </>
        )}
      </p>
      <div className="flex justify-end gap-2 pt-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          look="solid"
          why={
            chosen.length === 0
              ? "Choose a file first"
              : error
                ? "The name cannot be used yet"
                : isTaking && "They are being made"
          }
          onClick={() => void take()}
        >
          {many ? `Take ${chosen.length} files` : "Take it"}
        </Button>
      </div>
    </DialogFrame>
  );
}
