import clsx from "clsx";
import { Tabs } from "radix-ui";
import { Fragment, type ReactNode, useState } from "react";
import { useNarrow } from "./use-narrow";

/** The views of a page side by side, `columns` being their grid; on a narrow screen one at a time, each by its name. */
export function Views(p: { columns: string; names: readonly string[]; children: readonly ReactNode[] }) {
  const isNarrow = useNarrow();
  // A name may have spaces, which a reference must not have.
  const views = p.names.map((name, k) => ({ name, key: `view-${k}`, node: p.children[k] }));
  const [chosen, setChosen] = useState<string | null>(null);
  if (!isNarrow) {
    return (
      <div className={clsx("grid min-h-0 gap-1.5", p.columns)}>
        {views.map((v) => (
          <Fragment key={v.key}>{v.node}</Fragment>
        ))}
      </div>
    );
  }
  const shown = views.find((v) => v.key === chosen) ?? views[0];
  return (
    <Tabs.Root
      value={shown?.key ?? ""}
      onValueChange={setChosen}
      className="flex min-h-0 min-w-0 flex-col gap-1.5"
    >
      <Tabs.List aria-label="Views" className="flex flex-none gap-1.5">
        {views.map((v) => (
          <Tabs.Trigger
            key={v.key}
            value={v.key}
            className="min-h-9 flex-1 low:min-h-7 rounded-tile border-b-2 border-transparent bg-tile px-2 text-sm font-semibold text-soft data-[state=active]:border-glaze data-[state=active]:text-glaze"
          >
            {v.name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {views.map((v) => (
        <Tabs.Content key={v.key} value={v.key} tabIndex={-1} className="grid min-h-0 min-w-0 flex-1">
          {v.node}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
