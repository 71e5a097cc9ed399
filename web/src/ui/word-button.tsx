import type { ReactNode } from "react";

/** A small thing to do, within a line of words. */
export function WordButton(p: { onClick: () => void; disabled?: boolean; children: ReactNode }) {
  return (
    <button
      type="button"
      disabled={p.disabled}
      onClick={p.onClick}
      className="text-xs font-semibold text-ink underline decoration-edge underline-offset-2 hover:text-glaze disabled:opacity-50"
    >
      {p.children}
    </button>
  );
}
