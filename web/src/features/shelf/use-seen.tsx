import { type ReactNode, useCallback, useEffect, useRef, useState } from "react";

/** So many designs are put on the page at a time. */
const AT_ONCE = 60;

/** How many of a long list are on the page: more as its end comes into sight. With another list it begins anew. */
export function useSeen(list: string, all: number): { count: number; more: ReactNode } {
  const [seen, setSeen] = useState({ list, count: AT_ONCE });
  const count = seen.list === list ? seen.count : AT_ONCE;
  const observer = useRef<IntersectionObserver | null>(null);
  const grow = useCallback(() => setSeen({ list, count: count + AT_ONCE }), [list, count]);
  const end = useCallback(
    (element: HTMLLIElement | null) => {
      observer.current?.disconnect();
      if (!element) return;
      observer.current = new IntersectionObserver(([e]) => e?.isIntersecting && grow(), {
        // Before the end is there.
        rootMargin: "600px",
      });
      observer.current.observe(element);
    },
    [grow],
  );
  useEffect(() => () => observer.current?.disconnect(), []);
  return {
    count,
    more: count < all ? <li key={count} ref={end} className="h-52" aria-hidden="true" /> : null,
  };
}
