import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, refusal } from "../../api/client";
import type { Edit } from "../../api/generated/Edit";
import type { RecipeKind } from "../../api/generated/RecipeKind";
import { useWorkshop } from "../../api/workshop";
import { AskField } from "../../ui/ask-field";
import { Choice } from "../../ui/choice";
import { Card, Group } from "../../ui/panel";
import { WordButton } from "../../ui/word-button";
import { chosenOf } from "../tiers/chosen-of";
import { MeasureList } from "../tiers/measure-list";
import { spoolOption } from "../views/look";
import type { Change, Known, SetWork } from "./use-set";
import type { Usual } from "./usual";

/** What all designs of the set have in common, to be changed for all that have it. */
export function SetCard(p: { work: SetWork; usual: Usual; onLimit: (limit: string) => void }) {
  const { work, usual } = p;
  const { data: recipes } = useQuery({ queryKey: ["recipes"], queryFn: api.recipes, staleTime: Infinity });
  const workshop = useWorkshop()?.workshop;
  const [wrong, setWrong] = useState<string | null>(null);
  const same = work.members?.filter((m) => m.is?.recipe === usual.recipe) ?? [];
  const busy = work.progress !== null;
  /** Says here why where the first refuses. */
  const change = (editsOf: Change) => {
    setWrong(null);
    return work.change(editsOf).catch((e: unknown) => {
      setWrong(refusal(e));
      return undefined;
    });
  };
  const size = (text: string, axis: (m: Known) => "width" | "height") => {
    if (text === "") return;
    void change((m) => [{ kind: "set-size", axis: axis(m), value: text, of: "object" }]);
  };
  const longer = (m: Known) => ((m.is.made?.size[0] ?? 0) >= (m.is.made?.size[1] ?? 0) ? "width" : "height");
  const ownIn = (name: string) => same.filter((m) => hasOwn(m, name)).length;
  const houses = workshop?.houses ?? [];
  return (
    <Card title="What they have in common">
      {wrong && (
        <p role="alert" className="pb-2 text-sm text-terracotta">
          {wrong}
        </p>
      )}
      <Group title="Set" note={busy ? `${work.progress?.done} of ${work.progress?.of}` : undefined}>
        <Choice
          label="Recipe"
          value={usual.recipe}
          options={recipes?.map((r) => ({ name: r.kind, label: r.label })) ?? []}
          onChoose={(recipe) => change(() => [{ kind: "set-recipe", recipe: recipe as RecipeKind }])}
        />
        {houses.length > 0 && (
          <Choice
            label="House measures"
            value=""
            options={houses.map((h) => ({ name: h.name, label: h.name }))}
            onChoose={(name) => {
              const h = houses.find((h) => h.name === name);
              return h
                ? change(() => [
                    { kind: "set-recipe", recipe: h.recipe },
                    { kind: "set-measures", recipe: h.recipe, measures: h.measures },
                  ]).then(() => undefined)
                : undefined;
            }}
          />
        )}
        <AskField
          label="Width of each"
          placeholder="as it is"
          disabled={busy}
          isOnce
          onAsk={(text) => size(text, () => "width")}
        />
        <AskField
          label="Longest side of each"
          placeholder="as it is"
          disabled={busy}
          isOnce
          onAsk={(text) => size(text, longer)}
        />
        <AskField label="Longest print of each" placeholder="no limit" disabled={busy} onAsk={p.onLimit} />
      </Group>
      <Group title="Filaments">
        {usual.tiers.map((t) => {
          const own = ownIn(t.key);
          return (
            <div key={t.key}>
              <Choice
                label={t.name}
                value={t.filament}
                options={workshop?.filaments.map(spoolOption) ?? []}
                onChoose={(filament) =>
                  change(
                    alike(t.key, (m) =>
                      m.is.tiers.some((of) => of.key === t.key)
                        ? [{ kind: "set-filament", key: t.key, filament }]
                        : [],
                    ),
                  )
                }
              />
              {own > 0 && <Own count={own} />}
            </div>
          );
        })}
      </Group>
      <MeasureList
        measures={usual.measures}
        unit={same[0]?.is?.unit ?? "mm"}
        onSet={(m, value) => {
          const all = alike(m.name, () => [{ kind: "set-measure", name: m.name, value }]);
          if (m.options.length > 0) return change(all);
          setWrong(null);
          return work.change(all);
        }}
        onReset={(m) => void change(alike(m.name, () => [{ kind: "reset-measure", name: m.name }]))}
        below={(m) => {
          const own = ownIn(m.name);
          if (own === 0) return null;
          return (
            <Own count={own}>
              <WordButton
                why={busy && "The set is being made"}
                onClick={() =>
                  void change((of, usual) =>
                    of.is.recipe === usual.recipe && hasOwn(of, m.name)
                      ? [{ kind: "set-measure", name: m.name, value: chosenOf(m) }]
                      : [],
                  )
                }
              >
                Make all alike
              </WordButton>
            </Own>
          );
        }}
      />
    </Card>
  );
}

const hasOwn = (m: Pick<Known, "differs">, name: string) => m.differs.some((d) => d.name === name);

/** A change of what most have; one that differs in it on purpose, or is another kind of object, stays as it is. */
const alike =
  (name: string, editsOf: (m: Known) => Edit[]): Change =>
  (m, usual) =>
    m.is.recipe === usual.recipe && !hasOwn(m, name) ? editsOf(m) : [];

function Own(p: { count: number; children?: React.ReactNode }) {
  return (
    <p className="flex items-baseline justify-end gap-1 text-xs text-glaze">
      {p.count === 1 ? "1 has its own" : `${p.count} have their own`} {p.children}
    </p>
  );
}
