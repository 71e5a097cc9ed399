import type { Bench } from "../../api/bench";
import type { Finish } from "../../api/generated/Finish";
import type { OwnTier } from "../../api/generated/OwnTier";
import { Choice } from "../../ui/choice";
import { MeasureField } from "../../ui/measure-field";
import { EdgePicture } from "./edge-picture";

const SHAPES = [
  { name: "square", label: "Square" },
  { name: "taper", label: "Taper" },
  { name: "chamfer", label: "Chamfer" },
  { name: "round", label: "Round" },
];

const EDGES = [
  { name: "both", label: "All edges" },
  { name: "outer", label: "Outer edges" },
  { name: "inner", label: "Inner edges" },
];

const WAYS = [
  { name: "inward", label: "Inward" },
  { name: "outward", label: "Outward" },
];

export function OwnFields({ bench, tier }: { bench: Bench; tier: OwnTier }) {
  const unit = bench.design.document.unit;
  const typed = (name: string) => (value: string) =>
    bench.commit([{ kind: "set-tier-length", id: tier.id, name, value }]);
  const set = (change: Partial<OwnTier>) =>
    bench.change([{ kind: "set-tier", tier: { ...tier, ...change } }]);
  const finish = (which: "top" | "bottom") => {
    const f = tier[which];
    const put = (change: Partial<Finish>) => set({ [which]: { ...f, ...change } });
    // Each with a picture of what it makes of this edge.
    const pictured = (options: { name: string; label: string }[], of: "shape" | "edges" | "way") =>
      options.map((o) => ({
        ...o,
        picture: <EdgePicture finish={{ ...f, [of]: o.name }} isLower={which === "bottom"} />,
      }));
    return (
      <>
        <Choice
          label={which === "top" ? "Upper edge" : "Lower edge"}
          value={f.shape}
          options={pictured(SHAPES, "shape")}
          onChoose={(shape) => {
            const [inset, depth] = USUAL[shape as Finish["shape"]];
            put({ shape: shape as Finish["shape"], inset: f.inset || inset, depth: f.depth || depth });
          }}
        />
        {f.shape !== "square" && (
          <>
            <MeasureField
              label="How far in"
              value={f.inset}
              unit={unit}
              step={0.1}
              onCommit={typed(`${which}-inset`)}
            />
            <MeasureField
              label={which === "top" ? "How far down" : "How far up"}
              value={f.depth}
              unit={unit}
              step={0.1}
              onCommit={typed(`${which}-depth`)}
            />
            <Choice
              label="Which edges"
              value={f.edges}
              options={pictured(EDGES, "edges")}
              onChoose={(edges) => put({ edges: edges as Finish["edges"] })}
            />
            <Choice
              label="Direction"
              value={f.way}
              options={pictured(WAYS, "way")}
              onChoose={(way) => put({ way: way as Finish["way"] })}
            />
          </>
        )}
      </>
    );
  };
  return (
    <div className="bg-sunk px-3 pb-2">
      <MeasureField label="From" value={tier.from} unit={unit} step={0.2} onCommit={typed("from")} />
      <MeasureField label="To" value={tier.to} unit={unit} step={0.2} onCommit={typed("to")} />
      <MeasureField label="Grown by" value={tier.grow} unit={unit} step={0.1} onCommit={typed("grow")} />
      <Choice
        label="Area"
        value={tier.rim === null ? "all" : "rim"}
        options={[
          { name: "all", label: "All of it" },
          { name: "rim", label: "Only a rim" },
        ]}
        onChoose={(v) => set({ rim: v === "rim" ? 2 : null })}
      />
      {tier.rim !== null && (
        <MeasureField label="Rim width" value={tier.rim} unit={unit} step={0.1} onCommit={typed("rim")} />
      )}
      <Choice
        label="It is"
        value={tier.is_cut ? "cut" : "added"}
        options={[
          { name: "added", label: "Added" },
          { name: "cut", label: "Cut out" },
        ]}
        onChoose={(v) => set({ is_cut: v === "cut" })}
      />
      {finish("top")}
      {finish("bottom")}
    </div>
  );
}

const USUAL: Record<Finish["shape"], [number, number]> = {
  square: [0, 0],
  taper: [0.5, 3],
  chamfer: [0.5, 0.5],
  round: [0.5, 0.5],
};
