import { replaceEqualDeep } from "@tanstack/react-query";

/** Whether two sets of props say the same, whoever made them: then nothing has to be drawn anew. */
export function isSame<P extends object>(a: P, b: P): boolean {
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]) as Set<keyof P>;
  return [...keys].every((k) => Object.is(replaceEqualDeep(a[k], b[k]), a[k]));
}
