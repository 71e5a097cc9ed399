import clsx from "clsx";
import { useState } from "react";
import type { Bench } from "../../api/bench";
import type { Finish } from "../../api/generated/Finish";
import type { Footprint } from "../../api/generated/Footprint";
import type { OwnTier } from "../../api/generated/OwnTier";
import type { TierView } from "../../api/generated/TierView";
import { useFilaments } from "../../api/workshop";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { Icon } from "../../ui/icons";
import { areaIn, shown } from "../../ui/length";
import { Item, Menu } from "../../ui/menu";
import { Tip } from "../../ui/tip";
import { useColours } from "../outline/colour-filaments";
import { spotOf } from "../outline/tools/tool";
import { familyOf, rgb, spoolOption } from "../views/look";
import { below, HeightsTable, useHeightMode } from "./heights";
import { OwnFields } from "./own-fields";

const SQUARE: Finish = { shape: "square", way: "inward", edges: "both", inset: 0, depth: 0 };

/**
 * The height of the stack under a new tier. Under the whole edge that is the broadest body's top, under details and patches
 * the top of what carries them. Walls, flanges and rims stand beside it.
 */
export function topUnder(tiers: readonly TierView[], footprint: Footprint): number {
  const carries = (t: TierView) => !t.is_cut && (t.role === "body" || t.role === "own");
  const all = tiers.filter((t) => carries(t) || (footprint.of === "edge" && t.role === "detail"));
  return Math.max(0, ...all.map((t) => t.top));
}

/** The colours of all filaments that a line of the stack prints in: details may be painted patch by patch. */
export function spoolsOf(tiers: readonly TierView[], of: TierView): string[] {
  const same = tiers.filter((t) => t.key === of.key && !t.is_cut);
  return [...new Map(same.map((t) => [t.filament, rgb(t.colour)])).values()];
}

/** A name that no own tier has yet: 'Tier 3'. */
export function freeName(own: readonly OwnTier[], name: string): string {
  const taken = new Set(own.map((t) => t.name));
  let n = own.length + 1;
  while (taken.has(`${name} ${n}`)) n += 1;
  return `${name} ${n}`;
}

/** The tiers from the top down, as they stand: filament, heights, and what can be done with each. */
export function StackList({ bench }: { bench: Bench }) {
  const { result, design } = bench;
  const { isAbove, setAbove } = useHeightMode();
  const [isTable, setTable] = useState(false);
  const [open, setOpen] = useState<number | null>(null);
  const own = design.document.tiers;
  const filaments = useFilaments();
  const usual = filaments[0]?.id ?? "";
  const colours = useColours(bench);
  const keys = new Set<string>();
  // Tiers of one key are one line; the last one printed stands for them.
  const rows = result.tiers.toReversed().filter((t) => !keys.has(t.key) && keys.add(t.key));
  const add = (footprint: Footprint, name: string) => {
    const top = topUnder(result.tiers, footprint);
    const tier: OwnTier = {
      id: 0,
      name: freeName(own, name),
      footprint,
      grow: 0,
      rim: null,
      from: top,
      to: Math.round((top > 0 ? top + 2 : 3) * 10) / 10,
      is_cut: false,
      top: SQUARE,
      bottom: SQUARE,
      is_on: true,
    };
    bench.change([{ kind: "add-tier", tier }]);
  };
  const loosen = (t: TierView) => {
    const f = t.finish;
    const tier: OwnTier = {
      id: 0,
      name: t.name,
      footprint: { of: "tier", key: t.key },
      grow: 0,
      rim: null,
      from: t.bottom,
      to: t.top,
      is_cut: t.is_cut,
      top: f ? { shape: "taper", way: "inward", edges: "outer", inset: f[0], depth: f[1] } : SQUARE,
      bottom: SQUARE,
      is_on: true,
    };
    bench.change([{ kind: "add-tier", tier }]);
  };
  return (
    <div className="pb-2" data-testid="stack">
      <div className="flex items-center gap-1 pb-1">
        <h3 className="font-display text-[15px] font-semibold">Stack</h3>
        <button
          type="button"
          className="ml-auto rounded-tile px-1.5 py-0.5 text-xs text-soft hover:text-glaze"
          aria-pressed={isAbove}
          onClick={() => setAbove(!isAbove)}
        >
          {isAbove ? "above what is below" : "heights from the bed"}
        </button>
        <Tip words={isTable ? "The stack without its table" : "All heights in a table"}>
          <Button
            look="bare"
            className={clsx("size-7", isTable && "text-glaze")}
            aria-label="Table of heights"
            aria-pressed={isTable}
            onClick={() => setTable(!isTable)}
          >
            <Icon name="table" className="size-4" />
          </Button>
        </Tip>
        <Menu
          trigger={
            <Button look="bare" aria-label="Add a tier" className="size-7">
              <span className="text-lg leading-none">+</span>
            </Button>
          }
        >
          <Item words="Tier of the whole edge" onPick={() => add({ of: "edge" }, "Tier")} />
          {colours.of.length > 1 && (
            <>
              <Item
                words="A tier for each colour, one height"
                onPick={() => colours.tiers(topUnder(result.tiers, { of: "details" }), false)}
              />
              <Item
                words="A tier for each colour, in steps"
                onPick={() => colours.tiers(topUnder(result.tiers, { of: "details" }), true)}
              />
            </>
          )}
          <Item words="Tier of the details" onPick={() => add({ of: "details" }, "Details")} />
          {design.result.patches.map((p, i) =>
            p.use !== "aside" && i < 12 ? (
              <Item
                key={`${p.at[0]} ${p.at[1]}`}
                words={`Tier of patch ${i + 1}`}
                note={p.area === null ? "" : areaIn(p.area, design.document.unit)}
                onPick={() => add({ of: "patches", patches: [spotOf(p)] }, "Patch")}
              />
            ) : null,
          )}
        </Menu>
      </div>
      {isTable && <HeightsTable bench={bench} rows={rows} isAbove={isAbove} />}
      <ul className="overflow-hidden rounded-tile border border-line">
        {rows.map((t) => {
          const mine = own.find((o) => `own-${o.id}` === t.key);
          const many = spoolsOf(result.tiers, t);
          const height = isAbove ? t.top - below(result.tiers, t, t.top) : t.top;
          return (
            <li key={t.key} className="border-b border-line last:border-b-0" data-stack={t.key}>
              <div className="flex items-center gap-1.5 px-2 py-1 text-sm">
                <span
                  className={clsx(
                    "size-3 flex-none rounded-[3px]",
                    t.is_cut && "border border-dashed border-soft",
                  )}
                  style={{ background: t.is_cut ? "transparent" : `var(--${familyOf(t.role)})` }}
                />
                <span className="min-w-0 flex-1">
                  {mine ? (
                    <button
                      type="button"
                      className="block w-full truncate text-left font-semibold hover:text-glaze"
                      aria-expanded={open === mine.id}
                      onClick={() => setOpen(open === mine.id ? null : mine.id)}
                    >
                      {t.name}
                    </button>
                  ) : (
                    <span className="block truncate">{t.name}</span>
                  )}
                  <span className="block text-xs text-soft">
                    {t.is_cut ? "cut " : ""}
                    {isAbove ? "+" : `${shown(t.bottom, design.document.unit, 1)} to `}
                    {shown(height, design.document.unit, 1)}
                    {many.length > 1 && (
                      <span data-spools={many.length}>
                        {" · "}
                        {many.map((colour) => (
                          <span
                            key={colour}
                            className="mr-0.5 inline-block size-2 rounded-full border border-edge"
                            style={{ background: colour }}
                          />
                        ))}{" "}
                        {many.length} filaments, by patch
                      </span>
                    )}
                  </span>
                </span>
                {!t.is_cut && (
                  <Choice
                    isBare
                    label={`Filament of ${t.name}`}
                    value={t.filament}
                    options={filaments.map(spoolOption)}
                    onChoose={(f) =>
                      bench.change([{ kind: "set-filament", key: t.key, filament: f === usual ? null : f }])
                    }
                  />
                )}
                {mine ? (
                  <OwnMenu bench={bench} tier={mine} />
                ) : (
                  <Tip words="Make it a tier of your own">
                    <Button
                      look="bare"
                      className="size-7"
                      aria-label={`Make ${t.name} your own`}
                      onClick={() => loosen(t)}
                    >
                      <Icon name="lift" className="size-4" />
                    </Button>
                  </Tip>
                )}
              </div>
              {mine && open === mine.id && <OwnFields bench={bench} tier={mine} />}
            </li>
          );
        })}
        {own
          .filter((o) => !rows.some((t) => t.key === `own-${o.id}`))
          .map((o) => (
            <li key={o.id} className="flex items-center gap-2 px-2 py-1 text-sm text-soft">
              <span className="flex-1 truncate">
                {o.name} <span className="text-xs">({o.is_on ? "makes nothing" : "off"})</span>
              </span>
              <OwnMenu bench={bench} tier={o} />
            </li>
          ))}
        {rows.length === 0 && own.length === 0 && (
          <li className="px-2 py-2 text-sm text-soft">Nothing stands here yet: add a tier with +.</li>
        )}
      </ul>
    </div>
  );
}

function OwnMenu({ bench, tier }: { bench: Bench; tier: OwnTier }) {
  const place = bench.design.document.tiers.findIndex((t) => t.id === tier.id);
  return (
    <Menu
      trigger={
        <Button look="bare" className="size-7" aria-label={`More of ${tier.name}`}>
          <Icon name="more" className="size-4" />
        </Button>
      }
    >
      <Item
        words={tier.is_on ? "Switch off" : "Switch on"}
        onPick={() => bench.change([{ kind: "set-tier", tier: { ...tier, is_on: !tier.is_on } }])}
      />
      <Item
        words="Later in the stack"
        onPick={() => bench.change([{ kind: "order-tier", id: tier.id, to: place + 1 }])}
      />
      <Item
        words="Earlier in the stack"
        why={place === 0 && "it is the first"}
        onPick={() => bench.change([{ kind: "order-tier", id: tier.id, to: place - 1 }])}
      />
      <Item words="Remove" onPick={() => bench.change([{ kind: "remove-tier", id: tier.id }])} />
    </Menu>
  );
}
