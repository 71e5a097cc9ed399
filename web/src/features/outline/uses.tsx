import clsx from "clsx";
import { DropdownMenu } from "radix-ui";
import { useId } from "react";
import type { PatchView } from "../../api/generated/PatchView";
import type { Use } from "../../api/generated/Use";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { Item, Menu } from "../../ui/menu";
import { Tip } from "../../ui/tip";
import { Toolbar } from "../../ui/toolbar";
import { ALIKE, alike } from "./alike";

interface UseWords {
  use: Use;
  words: string;
  meaning: string;
  key: string;
}

/** What a patch can be for, in the order in which it is offered. */
export const USES: readonly UseWords[] = [
  { use: "edge", words: "Edge", key: "E", meaning: "Its outer contour, filled, shapes the object" },
  { use: "detail", words: "Detail", key: "D", meaning: "It is raised, engraved, inlaid or stamped" },
  { use: "both", words: "Both", key: "B", meaning: "It shapes the object, and is drawn on it" },
  { use: "opening", words: "Opening", key: "O", meaning: "It is cut right through what it lies in" },
  { use: "aside", words: "Aside", key: "A", meaning: "It is put aside" },
];

/** The use whose key was pressed. */
export const keyedUse = (key: string): Use | undefined => USES.find((u) => u.key === key.toUpperCase())?.use;

/** A body with a patch on it, as each use makes it: seen from above and cut through. */
export function UseIcon({ use, className }: { use: Use; className?: string }) {
  const id = useId();
  const body = "M4 3h12v10H4z";
  const patch = "M7.5 8a2.500 2.500 0 1 0 5 0 2.500 2.500 0 1 0-5 0z";
  return (
    <svg viewBox="0 0 20 20" className={className ?? "size-4 flex-none"} aria-hidden="true">
      <defs>
        <pattern
          id={id}
          width="2.500"
          height="2.500"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0v2.500" stroke="currentColor" strokeWidth="0.900" />
        </pattern>
      </defs>
      {use === "edge" && (
        <path d={body} fill="var(--wall)" stroke="currentColor" strokeWidth="1.200" strokeLinejoin="round" />
      )}
      {use === "detail" && (
        <>
          <path d={body} fill="none" stroke="currentColor" strokeWidth="0.800" strokeLinejoin="round" />
          <path d={patch} fill="var(--stamp)" stroke="currentColor" strokeWidth="1.200" />
        </>
      )}
      {use === "both" && (
        <>
          <path
            d={body}
            fill="var(--wall)"
            stroke="currentColor"
            strokeWidth="1.200"
            strokeLinejoin="round"
          />
          <path d={patch} fill="var(--stamp)" stroke="currentColor" strokeWidth="1.200" />
        </>
      )}
      {use === "opening" && (
        <>
          <path
            d={`${body}${patch}`}
            fillRule="evenodd"
            fill="var(--wall)"
            stroke="currentColor"
            strokeWidth="1"
            strokeLinejoin="round"
          />
          <path d={patch} fill={`url(#${id})`} />
        </>
      )}
      {use === "aside" && (
        <path
          d={patch}
          fill="none"
          stroke="currentColor"
          strokeWidth="1.200"
          strokeDasharray="1.600 1.200"
          strokeLinecap="round"
        />
      )}
      <path
        d={use === "opening" ? "M4 17h3.500M12.500 17H16" : use === "aside" ? "M4 17h12" : "M4 17h12"}
        stroke="currentColor"
        strokeWidth="1.600"
        opacity={use === "aside" ? 0.4 : 1}
      />
      {(use === "detail" || use === "both") && (
        <path d="M7.500 15.200h5" stroke="var(--stamp)" strokeWidth="1.800" />
      )}
    </svg>
  );
}

/** The use of one patch, spelled out; opens the list of all five. */
export function UseMenu(p: { use: Use; name: string; onChoose: (use: Use) => void }) {
  const now = USES.find((u) => u.use === p.use);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <button
          type="button"
          aria-label={`Use of ${p.name}: ${now?.words}`}
          className="flex flex-none items-center gap-1 rounded-tile border border-edge px-1 py-0.5 text-xs hover:border-glaze hover:text-glaze"
        >
          <UseIcon use={p.use} />
          {now?.words}
          <Icon name="down" className="size-3.5 text-soft" />
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 rounded-tile border border-line bg-tile p-1 shadow-xl"
        >
          {USES.map((u) => (
            <DropdownMenu.Item
              key={u.use}
              onSelect={() => p.onChoose(u.use)}
              className={clsx(
                "flex cursor-default items-center gap-2 rounded-xs px-2 py-1.5 text-sm outline-none data-[highlighted]:bg-sunk data-[highlighted]:text-glaze",
                u.use === p.use && "font-semibold",
              )}
            >
              <UseIcon use={u.use} />
              <span>{u.words}</span>
              <span className="ml-auto pl-3 text-xs text-soft">{u.meaning}</span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** What the chosen patches are for: one press gives all of them a use. */
export function UseBar(p: {
  patches: readonly PatchView[];
  chosen: readonly number[];
  setChosen: (now: number[]) => void;
  onUse: (use: Use) => void;
}) {
  const all = p.chosen.flatMap((i) => p.patches[i] ?? []);
  const uses = new Set(all.map((q) => q.use));
  const common = uses.size === 1 ? all[0]?.use : undefined;
  const count = all.length === 1 ? "One patch" : `${all.length} patches`;
  return (
    <Toolbar
      label="Use of what is chosen"
      className="flex min-h-12 flex-none flex-wrap items-center gap-1 border-y border-line bg-sunk px-3 py-1.5 text-xs"
      testid="uses"
    >
      <span className="min-w-16 text-soft">{count}</span>
      {USES.map((u) => (
        <Tip key={u.use} words={`${u.meaning} (${u.key})`}>
          <Button
            aria-pressed={common === u.use}
            className={clsx("gap-1 px-2 text-xs", common === u.use && "border-glaze text-glaze")}
            onClick={() => p.onUse(u.use)}
          >
            <UseIcon use={u.use} />
            {u.words}
          </Button>
        </Tip>
      ))}
      <Menu
        trigger={
          <Button className="px-2 text-xs" title="Chooses other patches too">
            All like {all.length === 1 ? "this" : "these"}
            <Icon name="down" className="size-3.5" />
          </Button>
        }
      >
        {ALIKE.map(({ how, words }) => {
          const found = alike(p.patches, p.chosen, how);
          return (
            <Item
              key={how}
              words={words}
              note={String(found.length)}
              why={found.length <= p.chosen.length && "no others"}
              onPick={() => p.setChosen(found)}
            />
          );
        })}
      </Menu>
    </Toolbar>
  );
}
