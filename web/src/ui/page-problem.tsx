import { Link } from "wouter";
import type { Problem } from "../api/generated/Problem";
import { Button } from "./button";

/** A page whose work cannot be opened. */
export function PageProblem({ problem, onRetry }: { problem: Problem; onRetry: () => void }) {
  return (
    <main className="flex h-full flex-col items-center justify-center gap-3 bg-tile">
      <h1 className="font-display text-2xl font-semibold">{problem.title}</h1>
      <p role="alert">{problem.detail}.</p>
      <p className="text-sm text-soft">{problem.hint}</p>
      <div className="flex gap-2 pt-2">
        <Button onClick={onRetry}>Try again</Button>
        <Link href="/" className="rounded-tile bg-deep px-3 py-1.5 text-sm font-semibold text-on-deep">
          To the shelf
        </Link>
      </div>
    </main>
  );
}
