import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import type { Bench } from "../../api/bench";
import { api, stepUrl } from "../../api/client";
import type { StepView } from "../../api/generated/StepView";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { ITEM, MENU } from "../../ui/menu";
import { timeOfDay } from "../../ui/numbers";
import { Tip } from "../../ui/tip";
import { Miniature } from "./miniature";

/** Steps that are shown at once. */
const MOST = 30;

/** What undo and redo go through, each with the plan that it gave: a press goes there. */
export function StepsMenu({ bench }: { bench: Bench }) {
  const { id, version } = bench.design;
  const [isOpen, setOpen] = useState(false);
  const { data: steps } = useQuery({
    queryKey: ["steps", id, version],
    queryFn: () => api.steps(id),
    enabled: isOpen,
  });
  const present = steps?.find((s) => s.is_present)?.number ?? 0;
  return (
    <DropdownMenu.Root open={isOpen} onOpenChange={setOpen}>
      <Tip words="All steps, each with its plan">
        <DropdownMenu.Trigger asChild>
          <Button look="bare" aria-label="Steps of undo" className="w-6">
            <Icon name="down" className="size-3.5" />
          </Button>
        </DropdownMenu.Trigger>
      </Tip>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={5} className={clsx(MENU, "w-80 max-w-[94vw]")}>
          {steps?.slice(0, MOST).map((s) => (
            <Step
              key={s.number}
              design={id}
              step={s}
              present={present}
              onPick={() => bench.step(s.number - present)}
            />
          ))}
          {!steps && <p className="px-2.5 py-1.5 text-sm text-soft">Looking them up…</p>}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Step(p: { design: string; step: StepView; present: number; onPick: () => void }) {
  const { number, label, created_at, is_present } = p.step;
  return (
    <DropdownMenu.Item
      className={clsx(ITEM, "items-center", number > p.present && "opacity-60")}
      onSelect={p.onPick}
      aria-current={is_present ? "step" : undefined}
      data-step={number}
    >
      <Miniature src={stepUrl(p.design, number, created_at)} />
      <span className="min-w-0 flex-1">
        <span className={clsx("block truncate", is_present && "font-semibold")}>
          {number === 1 ? "Began" : label}
        </span>
        <span className="block text-xs text-soft">
          {is_present ? "as it is now" : number > p.present ? "taken back" : timeOfDay(created_at)}
        </span>
      </span>
    </DropdownMenu.Item>
  );
}
