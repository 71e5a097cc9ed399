import { Button } from "./button";

/** A row of buttons of which one is pressed. */
export function OneOf<T extends string>(p: { all: readonly T[]; now: T; onChoose: (one: T) => void }) {
  return p.all.map((one) => (
    <Button
      key={one}
      className={`px-1 text-xs ${p.now === one ? "border-glaze text-glaze" : ""}`}
      aria-pressed={p.now === one}
      onClick={() => p.onChoose(one)}
    >
      {one}
    </Button>
  ));
}
