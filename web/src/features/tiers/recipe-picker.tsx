import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { Popover } from "radix-ui";
import { useState } from "react";
import type { Bench } from "../../api/bench";
import { api } from "../../api/client";
import { Icon } from "../../ui/icons";
import { RecipePicture } from "./recipe-picture";

/** The rule that makes tiers; a change of it keeps outline, sizes and own tiers. */
export function RecipePicker({ bench }: { bench: Bench }) {
  const { data } = useQuery({
    queryKey: ["recipes"],
    queryFn: api.recipes,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [isOpen, setOpen] = useState(false);
  const kind = bench.design.document.recipe;
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button
          type="button"
          aria-label={`Recipe: ${bench.result.recipe}. Change`}
          className="flex w-full items-center gap-3 rounded-tile border border-edge bg-field px-2.5 py-1.5 text-left hover:border-glaze"
        >
          <RecipePicture kind={kind} />
          <span className="min-w-0 flex-1">
            <span className="block font-display text-base font-semibold">{bench.result.recipe}</span>
            <span className="block text-xs text-soft">{bench.result.bed_words}</span>
          </span>
          <Icon name="down" className="size-4 flex-none text-soft" />
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={5}
          className="z-50 grid max-h-(--radix-popover-content-available-height) w-[min(540px,94vw)] grid-cols-2 gap-1 overflow-y-auto rounded-tile max-sm:grid-cols-1 border border-line bg-tile p-1.5 shadow-xl"
          aria-label="Recipes"
        >
          {data?.map((r) => (
            <button
              key={r.kind}
              type="button"
              aria-pressed={r.kind === kind}
              onClick={() => {
                setOpen(false);
                if (r.kind !== kind) bench.change([{ kind: "set-recipe", recipe: r.kind }]);
              }}
              className={clsx(
                "flex items-center gap-3 rounded-tile p-2 text-left outline-offset-[-2px] hover:bg-sunk",
                r.kind === kind && "bg-sunk shadow-[inset_3px_0_0_var(--glaze)]",
              )}
            >
              <RecipePicture kind={r.kind} />
              <span className="min-w-0">
                <span className="block text-sm font-semibold">{r.label}</span>
                <span className="block text-xs text-soft">{r.meaning}</span>
              </span>
            </button>
          ))}
          <p className="p-2 text-xs text-soft">
            Outline, size and your own tiers stay; each recipe remembers its measures.
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
