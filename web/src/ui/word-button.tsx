import type { ReactNode } from "react";

/** A small thing to do, within a line of words. */
export function WordButton(p: {
  onClick: () => void;
  /** Why it does nothing now. */
  why?: string | false;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      disabled={Boolean(p.why)}
      title={p.why || undefined}
      onClick={p.onClick}
      className="text-xs font-semibold text-ink underline decoration-edge underline-offset-2 hover:text-glaze disabled:opacity-50"
    >
      {p.children}
    </button>
  );
}
