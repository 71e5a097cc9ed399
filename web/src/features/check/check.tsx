import clsx from "clsx";
import type { Bench } from "../../api/bench";
import type { FindingView } from "../../api/generated/FindingView";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { Card, Panel } from "../../ui/panel";
import { ProblemNote } from "../../ui/problem-note";
import { Plan } from "../views/plan";
import { SideSwitch } from "../views/side-switch";
import { sideWords } from "../views/side-words";

/** How much a finding weighs: told by words, form and colour. */
const WEIGHTS = {
  fault: {
    words: "Cannot be printed or used like this",
    look: "border-terracotta bg-terracotta",
    text: "text-terracotta",
  },
  poor: { words: "Will look or work poorly", look: "border-terracotta", text: "text-terracotta" },
  note: { words: "Worth knowing", look: "border-edge", text: "text-soft" },
} as const;

/** What would go wrong, each with its place and, where there is one, the mend. */
export function Check({ bench }: { bench: Bench }) {
  const { result, design, isOld } = bench;
  const { side, finding, pointFinding } = useInterface();
  const s = result.solid;
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_380px] gap-1.5">
      <Panel title="Plan" note={sideWords(result, side)} tools={<SideSwitch result={result} />} isOld={isOld}>
        <Plan result={result} unit={design.document.unit} side={side} finding={finding} />
      </Panel>
      <Card title="Findings">
        {result.problem && <ProblemNote problem={result.problem} />}
        <div className="flex items-center gap-3 pb-3">
          <span
            className={clsx(
              "flex size-9 items-center justify-center rounded-tile",
              s && !isOld ? "bg-celadon text-[#0c2a2f]" : "bg-blush text-terracotta",
            )}
          >
            <Icon name={s && !isOld ? "check" : "close"} />
          </span>
          <div>
            <p className="font-display font-semibold">
              {s && !isOld ? "The mesh is sound" : "There is nothing to check yet"}
            </p>
            <p className="text-xs text-soft">
              {s && !isOld
                ? `closed, ${s.triangles} triangles, ${s.bodies} ${s.bodies === 1 ? "body" : "bodies"}: it can be taken home`
                : "nothing can be taken home until this is mended"}
            </p>
          </div>
        </div>
        {result.notes.map((note) => (
          <p key={note} className="border-t border-line py-2 text-sm text-soft" data-testid="note">
            {note}
          </p>
        ))}
        {result.findings.length === 0 && s && !isOld && (
          <p className="border-t border-line pt-3 text-sm">
            Nothing else to say. Loose parts, thin walls and lines, heights and the bed were looked at.
          </p>
        )}
        <ul>
          {result.findings.map((f, i) => (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: findings have no other name
              key={i}
              className={clsx("border-t border-line py-2.5", finding === i && "bg-sunk")}
              onPointerEnter={() => pointFinding(i)}
              onPointerLeave={() => pointFinding(null)}
              data-code={f.code}
            >
              <div className="flex items-start gap-3">
                <span
                  className={clsx("mt-1 size-2.5 flex-none rounded-full border-2", WEIGHTS[f.weight].look)}
                />
                {/* A button, so that findings without a mend are reached by keyboard too: it shows the place. */}
                <button
                  type="button"
                  className="min-w-0 flex-1 cursor-default rounded-xs text-left"
                  onFocus={() => pointFinding(i)}
                  onBlur={() => pointFinding(null)}
                  onClick={() => pointFinding(i)}
                >
                  <span className="block text-sm font-semibold">{f.what}</span>
                  <span className={clsx("block text-xs", WEIGHTS[f.weight].text)}>
                    {WEIGHTS[f.weight].words}
                  </span>
                  <span className="block text-xs text-soft">{f.why}</span>
                </button>
              </div>
              {f.mends.length > 0 && (
                <div className="flex flex-wrap gap-1 pt-1.5 pl-[22px]">
                  <Mends bench={bench} finding={f} onPoint={(is) => pointFinding(is ? i : null)} />
                </div>
              )}
            </li>
          ))}
        </ul>
        {result.findings.length > 0 && (
          <p className="border-t border-line pt-3 text-xs text-soft">
            Findings are advice: only a mesh that is not sound cannot be taken home.
          </p>
        )}
      </Card>
    </div>
  );
}

/** The buttons that mend a finding, the best first. */
function Mends(p: { bench: Bench; finding: FindingView; onPoint: (isPointed: boolean) => void }) {
  return p.finding.mends.map((m) => (
    <Button
      key={m.words}
      className="text-xs"
      onFocus={() => p.onPoint(true)}
      onBlur={() => p.onPoint(false)}
      onClick={() => p.bench.change(m.edits)}
    >
      {m.words}
    </Button>
  ));
}
