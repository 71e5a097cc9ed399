import { untilBack } from "../state/away";
import { ApiProblem } from "./client";

/** Something with a version that a change makes another one of. */
interface Versioned {
  version: number;
}

const isAway = (e: unknown) => e instanceof ApiProblem && e.problem.code === "unreachable";

/**
 * Makes a change; while the server is away, it waits. When it is back, the change is made again if nothing has changed there. Where
 * something has, the answer may have been lost on its way, or somebody else was first: what does no harm twice is made again, the rest is
 * left to the maker.
 */
export async function whenThere<B extends Versioned, T extends B>(
  before: B,
  change: (now: B) => Promise<T>,
  look: () => Promise<T>,
  canRepeat: boolean,
): Promise<T> {
  try {
    return await change(before);
  } catch (e) {
    if (!isAway(e)) throw e;
  }
  for (;;) {
    await untilBack();
    try {
      const now = await look();
      if (now.version !== before.version && !canRepeat) throw new ApiProblem(CLASH);
      return await change(now);
    } catch (e) {
      if (!isAway(e)) throw e;
    }
  }
}

const CLASH = {
  title: "Changed meanwhile",
  status: 412,
  detail: "This was changed while the server was away",
  code: "stale",
  value: null,
  limit: null,
  hint: "Look whether your last change is there, and make it again if it is not.",
};
