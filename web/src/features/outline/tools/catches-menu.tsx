import { Popover } from "radix-ui";
import { Button } from "../../../ui/button";
import { CATCHES, type CatchKind, useCatches } from "../catches";

const WORDS: Record<CatchKind, string> = {
  nodes: "Nodes",
  middles: "Middles of lines",
  edges: "Edges",
  centre: "Centre lines",
  guides: "Guides",
  grid: "1 mm grid",
};

/** What a drawing hand catches; each can be switched off. */
export function Catches() {
  const { on, toggle } = useCatches();
  const kinds = Object.keys(CATCHES) as CatchKind[];
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button className="text-xs">Catches {kinds.filter((k) => on[k]).length}</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="What is caught"
          sideOffset={4}
          className="z-30 flex flex-col gap-1 rounded-tile border border-edge bg-tile p-3 text-sm shadow-xl"
        >
          {kinds.map((kind) => (
            <label key={kind} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="accent-glaze"
                checked={on[kind]}
                onChange={() => toggle(kind)}
              />
              {WORDS[kind]}
            </label>
          ))}
          <p className="max-w-44 pt-1 text-xs text-soft">With Alt nothing is caught.</p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
