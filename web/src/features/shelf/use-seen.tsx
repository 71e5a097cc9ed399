import { type ReactNode, useCallback, useEffect, useRef, useState } from "react";

/** So many designs are on the page at first: two rows, because each costs a few milliseconds until anything is seen. */
const FIRST = 12;
/** So many more come at a time. */
const MORE = 60;

/** How many of a long list are on the page: more as its end comes into sight. With another list it begins anew. */
export function useSeen(list: string, all: number): { count: number; more: ReactNode } {
  const [seen, setSeen] = useState({ list, count: FIRST });
  const count = seen.list === list ? seen.count : FIRST;
  const observer = useRef<IntersectionObserver | null>(null);
  const grow = useCallback(() => setSeen({ list, count: count + MORE }), [list, count]);
  const end = useCallback(
    (element: HTMLLIElement | null) => {
      observer.current?.disconnect();
      if (!element) return;
      observer.current = new IntersectionObserver(([e]) => e?.isIntersecting && grow());
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
