import { ToggleGroup } from "radix-ui";
import { useInterface } from "../../state/interface";
import { Tip } from "../../ui/tip";

/** Which side plan and section show. The tool is the mirror image of what it cuts. */
export function SideSwitch() {
  const { side, flip } = useInterface();
  return (
    <Tip words="Show what is cut, as it reads, or the tool as it is printed" keys="M">
      <ToggleGroup.Root
        type="single"
        value={side}
        onValueChange={(v) => v && v !== side && flip()}
        aria-label="Side"
        className="mr-1 flex overflow-hidden rounded-tile border border-edge"
      >
        {(["cookie", "tool"] as const).map((s) => (
          <ToggleGroup.Item
            key={s}
            value={s}
            className="border-l border-line px-2 py-0.5 text-xs font-semibold capitalize first:border-l-0 hover:text-glaze data-[state=on]:bg-deep data-[state=on]:text-on-deep"
          >
            {s}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </Tip>
  );
}
