import { readdirSync, readFileSync } from "node:fs";
import { transformSync } from "@babel/core";
import compiler from "babel-plugin-react-compiler";
import { expect, test } from "vitest";

/** Where components are drawn anew for each step of a hand. */
const FOLLOWING = ["features/tiers", "features/views"];

/** They change what three.js keeps, or look at it while they are drawn. */
const OF_THREE = ["features/views/solid-measures.tsx", "features/views/solid-view.tsx"];

/** Reasons for which the compiler leaves functions of a file as they are: then all that they draw is drawn anew each time. */
function leftOut(file: string): string[] {
  const reasons: string[] = [];
  const logEvent = (_: string | null, event: { kind: string; detail?: unknown }) => {
    if (event.kind !== "CompileSuccess")
      reasons.push(`${file}: ${JSON.stringify(event.detail ?? event.kind)}`);
  };
  transformSync(readFileSync(`src/${file}`, "utf8"), {
    babelrc: false,
    configFile: false,
    filename: file,
    parserOpts: { plugins: file.endsWith("x") ? ["typescript", "jsx"] : ["typescript"] },
    plugins: [[compiler, { logger: { logEvent } }]],
  });
  return reasons;
}

test("what follows a hand is compiled, so that only what has changed is drawn anew", () => {
  const files = FOLLOWING.flatMap((folder) =>
    readdirSync(`src/${folder}`)
      .filter((name) => /(?<!\.test)\.tsx?$/.test(name))
      .map((name) => `${folder}/${name}`),
  );
  expect(files.length).toBeGreaterThan(50);
  expect(files.filter((f) => !OF_THREE.includes(f)).flatMap(leftOut)).toEqual([]);
  // Were these compiled too, the list would only be out of date; an empty one would say nothing.
  expect(OF_THREE.flatMap(leftOut)).not.toEqual([]);
}, 60_000);
