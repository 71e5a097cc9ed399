import { Link } from "wouter";
import type { Bench } from "../../api/bench";
import type { Axis } from "../../api/generated/Axis";
import type { SizeOf } from "../../api/generated/SizeOf";
import { isCutter } from "../../api/recipe";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { MeasureField } from "../../ui/measure-field";
import { Group } from "../../ui/panel";
import { Tip } from "../../ui/tip";

const AXES: [Axis, string, 0 | 1][] = [
  ["width", "Width", 0],
  ["height", "Height", 1],
];

/** The one true size, editable wherever it is shown: of what is drawn or cut, of the whole object, and by a factor. */
export function SizeFields({ bench }: { bench: Bench }) {
  const { outline: o, edge_size, solid } = bench.result;
  const { unit, recipe, prepare } = bench.design.document;
  if (!o) return null;
  const { picture } = bench.result;
  const isPhoto = picture !== null && !picture.is_drawing && prepare.straighten === null;
  const cuts = isCutter(recipe);
  const drawn: [number, number] = [o.width, o.height];
  // Of a cutter the cookie counts, margin included.
  const cut = cuts && edge_size ? edge_size : drawn;
  const field = (axis: Axis, label: string, meaning: string, value: number, of: SizeOf) => (
    <MeasureField
      label={label}
      meaning={meaning}
      value={value}
      unit={unit}
      step={1}
      onCommit={(text) => bench.commit([{ kind: "set-size", axis, value: text, of }])}
    />
  );
  return (
    <Group title="Size" note={cuts ? "of the cookie" : "of the drawing"}>
      {AXES.map(([axis, label, k]) => (
        <div key={axis} className="flex items-start gap-1">
          <div className="flex-1">
            {field(
              axis,
              label,
              cuts
                ? `${label} of the cookie, its margin included`
                : `${label} of the drawing, before anything is added`,
              cut[k],
              cuts ? "edge" : "drawing",
            )}
          </div>
          <Tip
            words={o.pinned === axis ? "Let go: the scale stays instead" : "Pin: stays when patches change"}
          >
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
      ))}
      {solid && (
        <div className="mt-1 border-t border-line pt-1">
          <p className="text-xs text-soft">The whole object</p>
          {AXES.map(([axis, label, k]) => (
            <div key={axis} className="pr-9">
              {field(
                axis,
                `${label} over all`,
                `${label} of the object with all that is added; what is added stays as it is`,
                solid.size[k],
                "object",
              )}
            </div>
          ))}
        </div>
      )}
      <div className="flex items-center gap-2 pt-1">
        <div className="flex-1">
          <MeasureField
            label="Scale by, %"
            meaning="Everything drawn is made so much larger or smaller"
            value={100}
            unit={null}
            step={5}
            onCommit={(text) => {
              const percent = Number(text.replace(",", ".").replace("%", ""));
              const mm_per_px = (o.mm_per_px * (Number.isFinite(percent) ? percent : 0)) / 100;
              return bench.commit([{ kind: "set-scale", mm_per_px }]);
            }}
          />
        </div>
        <Button
          className="px-1.5 text-xs"
          why={o.is_usual && "The size is what the recipe proposes, until one is typed"}
          title="The size that the recipe proposes, whatever picture and recipe are"
          onClick={() => bench.change([{ kind: "usual-size" }])}
        >
          Usual size
        </Button>
      </div>
      {isPhoto && (
        <p className="pt-1 text-xs text-soft">
          Is a card or a sheet of paper in the photo?{" "}
          <Link
            href={`/design/${bench.design.id}/artwork?tool=corners`}
            className="font-semibold text-ink underline decoration-edge underline-offset-2 hover:text-glaze"
          >
            Size by it
          </Link>
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
