import type { InUseView } from "../../api/generated/InUseView";

/** The answer of an object in use, and what the view does not know. */
export function UseNote({ use }: { use: InUseView }) {
  return (
    <section className="border-t border-line px-4 py-3" aria-label="In use" data-testid="in-use">
      <h3 className="font-display text-sm font-semibold">{use.title}</h3>
      <p className="text-sm">{use.says}</p>
      <p className="pt-1 text-xs text-soft">{use.leaves_out}</p>
    </section>
  );
}
