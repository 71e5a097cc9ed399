import type { ProblemView } from "../api/generated/ProblemView";
import { said } from "./numbers";

/** What happened and what to do, where the work is. */
export function ProblemNote({ problem }: { problem: ProblemView }) {
  return (
    <div role="alert" className="mb-3 rounded-tile border-l-4 border-terracotta bg-blush px-3 py-2 text-sm">
      <p className="font-semibold">{said(problem.message)}.</p>
      <p>{said(problem.hint)}</p>
    </div>
  );
}
