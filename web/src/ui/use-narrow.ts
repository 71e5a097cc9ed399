import { useSyncExternalStore } from "react";

/** Below this width the views of a page do not fit beside each other. */
const narrow = matchMedia("(max-width: 899px)");

const listen = (changed: () => void) => {
  narrow.addEventListener("change", changed);
  return () => narrow.removeEventListener("change", changed);
};

/** Whether one view at a time is shown: on a phone, on a tablet upright, or enlarged to twice the size. */
export const useNarrow = () => useSyncExternalStore(listen, () => narrow.matches);
