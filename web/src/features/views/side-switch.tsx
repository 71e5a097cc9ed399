import { ToggleGroup } from "radix-ui";
import type { ResultView } from "../../api/generated/ResultView";
import { useInterface } from "../../state/interface";
import { Tip } from "../../ui/tip";
import { sideNames } from "./side-words";

/** Which side plan and section show. The tool is the mirror image of what it cuts. */
export function SideSwitch({ result }: { result: ResultView }) {
  const names = sideNames(result);
  const { side, flip } = useInterface();
  return (
    <Tip
      words={
        result.is_mirrored
          ? "Show what is made with it, as it reads, or the tool as it is printed"
          : "Show it from above or from below"
      }
      keys="M"
    >
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
            {names[s]}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </Tip>
  );
}
