import type { Bench } from "../../api/bench";
import type { Axis } from "../../api/generated/Axis";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { rough } from "../../ui/length";
import { MeasureField } from "../../ui/measure-field";
import { Group } from "../../ui/panel";
import { Tip } from "../../ui/tip";

/** The one true size, editable wherever it is shown. */
export function SizeFields({ bench }: { bench: Bench }) {
  const o = bench.result.outline;
  const unit = bench.design.document.unit;
  if (!o) return null;
  const solid = bench.result.solid?.size;
  const row = (axis: Axis, label: string, value: number) => (
    <div className="flex items-start gap-1">
      <div className="flex-1">
        <MeasureField
          label={label}
          meaning={`${label} of the edge: of the cookie, before anything is added`}
          value={value}
          unit={unit}
          step={1}
          onCommit={(text) => bench.commit([{ kind: "set-size", axis, value: text }])}
        />
      </div>
      <Tip words={o.pinned === axis ? "Let go: the scale stays instead" : "Pin: stays when patches change"}>
        <Button
          look="bare"
          className={o.pinned === axis ? "bg-sunk text-glaze" : "text-soft"}
          aria-pressed={o.pinned === axis}
          aria-label={`Pin ${label.toLowerCase()}`}
          onClick={() => bench.change([{ kind: "pin-size", axis: o.pinned === axis ? null : axis }])}
        >
          <Icon name="pin" className="size-4.5" />
        </Button>
      </Tip>
    </div>
  );
  return (
    <Group title="Size" note="of what is cut">
      {row("width", "Width", o.width)}
      {row("height", "Height", o.height)}
      {solid && (
        <p className="pt-1 text-xs text-soft">
          The whole object: {rough(solid[0], unit)} × {rough(solid[1], unit)} {unit}
        </p>
      )}
      <div className="flex items-center gap-2 pt-2 text-sm">
        <span className="flex-1">Unit</span>
        {(["mm", "in"] as const).map((u) => (
          <Button
            key={u}
            aria-pressed={unit === u}
            className={unit === u ? "border-glaze text-glaze" : undefined}
            onClick={() => bench.change([{ kind: "set-unit", unit: u }])}
          >
            {u}
          </Button>
        ))}
      </div>
    </Group>
  );
}
