import type { KeyboardEvent, ReactNode } from "react";

/** Buttons in a row: arrow keys go from one to the next, Home and End to the ends. */
export function Toolbar(p: { label: string; className?: string; testid?: string; children: ReactNode }) {
  const walk = (e: KeyboardEvent<HTMLDivElement>) => {
    const all = [...e.currentTarget.querySelectorAll<HTMLElement>("button, a[href]")];
    const at = all.indexOf(document.activeElement as HTMLElement);
    const by = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
    const to =
      e.key === "Home"
        ? 0
        : e.key === "End"
          ? all.length - 1
          : by === undefined
            ? -1
            : (at + by + all.length) % all.length;
    if (at < 0 || to < 0) return;
    e.preventDefault();
    all[to]?.focus();
  };
  return (
    <div
      role="toolbar"
      aria-label={p.label}
      tabIndex={-1}
      className={p.className}
      data-testid={p.testid}
      onKeyDown={walk}
    >
      {p.children}
    </div>
  );
}
