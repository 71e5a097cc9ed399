import type { Bench } from "../../api/bench";
import type { Edit } from "../../api/generated/Edit";
import { Button } from "../../ui/button";
import { said } from "../../ui/numbers";

/** Takes a mend. Pointing at it shows in plan what it would give; nothing is saved meanwhile. */
export function MendButton(p: {
  bench: Bench;
  words: string;
  edits: Edit[];
  onPoint?: (isPointed: boolean) => void;
}) {
  const { bench } = p;
  const show = () => {
    p.onPoint?.(true);
    bench.preview(p.edits);
  };
  const leave = () => {
    p.onPoint?.(false);
    bench.settle();
  };
  return (
    <Button
      className="text-xs"
      onFocus={show}
      onBlur={leave}
      onPointerEnter={show}
      onPointerLeave={leave}
      onClick={() => bench.change(p.edits)}
    >
      {said(p.words)}
    </Button>
  );
}
