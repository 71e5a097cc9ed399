import { useNotices } from "../state/notices";
import { ApiProblem, refusal } from "./client";

/** Says at the foot of the page what was refused and what to do. */
export function complain(e: unknown): void {
  const p = e instanceof ApiProblem ? e.problem : null;
  useNotices.getState().say({ text: refusal(e), hint: p?.hint ?? "", isBad: true, action: null });
}
