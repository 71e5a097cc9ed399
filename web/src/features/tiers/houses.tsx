import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Bench } from "../../api/bench";
import { api } from "../../api/client";
import { useWorkshop, WORKSHOP } from "../../api/workshop";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { Item, Menu } from "../../ui/menu";
import { NameDialog } from "../../ui/name-dialog";

/** House measures: those that the workshop keeps under a name, to be used, and these to be kept. */
export function Houses({ bench }: { bench: Bench }) {
  const cache = useQueryClient();
  const shop = useWorkshop();
  const [isNaming, setNaming] = useState(false);
  const { recipe, measures } = bench.design.document;
  const houses = shop?.workshop.houses ?? [];
  const keep = async (name: string) => {
    if (!shop) return;
    const others = houses.filter((h) => h.name.toLowerCase() !== name.trim().toLowerCase());
    const kept = [...others, { name: name.trim(), recipe, measures }];
    cache.setQueryData(WORKSHOP, await api.setWorkshop(shop.version, { ...shop.workshop, houses: kept }));
  };
  return (
    <>
      <Menu
        trigger={
          <Button className="w-full justify-between text-xs">
            House measures <Icon name="down" className="size-3.5" />
          </Button>
        }
      >
        {houses.map((h) => (
          <Item
            key={h.name}
            words={h.name}
            note={h.recipe === recipe ? "this recipe" : h.recipe.replaceAll("-", " ")}
            onPick={() => bench.change([{ kind: "set-measures", recipe: h.recipe, measures: h.measures }])}
          />
        ))}
        {houses.length === 0 && (
          <Item words="Use kept ones" why="none is kept yet" onPick={() => undefined} />
        )}
        <Item
          words="Keep these…"
          note="under a name"
          why={!shop && "wait for the workshop"}
          onPick={() => setNaming(true)}
        />
      </Menu>
      {isNaming && (
        <NameDialog
          title="Keep these measures"
          note="They can be used for any design, for many pictures at once, and from the command line. A name that is there is kept anew."
          name=""
          action="Keep"
          onClose={() => setNaming(false)}
          onName={keep}
        />
      )}
    </>
  );
}
