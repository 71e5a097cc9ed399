import type { ReactNode } from "react";
import { Link } from "wouter";
import type { Problem } from "../api/generated/Problem";
import { Button } from "./button";

type Said = Pick<Problem, "title" | "detail" | "hint">;

const FILLED = "flex h-full flex-col items-center justify-center gap-3 bg-tile p-4 text-center";

function Words({ said, level, children }: { said: Said; level: "h1" | "h2"; children: ReactNode }) {
  const Heading = level;
  return (
    <>
      <Heading className="font-display text-2xl font-semibold">{said.title}</Heading>
      <p role="alert">{said.detail}.</p>
      <p className="text-sm text-soft">{said.hint}</p>
      <div className="flex gap-2 pt-2">{children}</div>
    </>
  );
}

const ToShelf = () => (
  <Link href="/" className="rounded-tile bg-deep px-3 py-1.5 text-sm font-semibold text-on-deep">
    To the shelf
  </Link>
);

/** A page whose work cannot be opened. */
export function PageProblem({ problem, onRetry }: { problem: Said; onRetry: () => void }) {
  return (
    <main className={FILLED}>
      <Words said={problem} level="h1">
        <Button onClick={onRetry}>Try again</Button>
        <ToShelf />
      </Words>
    </main>
  );
}

/** Files have other names after an update, so an open page asks for some that are gone. */
const MISSING: Said = {
  title: "A part of the page is missing",
  detail: "The server has it no longer: Kachel was probably updated while this page was open",
  hint: "Load the page again. What is saved stays as it is.",
};

/** In the place of a part of the page that did not come; of a whole page where its heading is the first. */
export function MissingPart({ level = "h2" }: { level?: "h1" | "h2" }) {
  return (
    <div className={FILLED}>
      <Words said={MISSING} level={level}>
        <Button look="solid" onClick={() => location.reload()}>
          Load the page again
        </Button>
      </Words>
    </div>
  );
}
