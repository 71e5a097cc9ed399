import clsx from "clsx";
import { refusal, thumbnailUrl } from "../../api/client";
import type { MemberMade } from "../../api/generated/MemberMade";
import type { SetMember } from "../../api/generated/SetMember";
import { fixed } from "../../ui/numbers";
import { clock } from "../print/time";

/** How far a picture is: waiting, being read, a design by its name for the program, or refused with why. */
export type State = "waits" | "reads" | { made: string; version: number } | { why: string };

/** A picture of a set: what it became, how large it is and how long it takes. */
export function ManyRow(p: {
  file: string;
  state: State;
  member: SetMember | undefined;
  problem: Error | null;
}) {
  const { state, member } = p;
  const made = typeof state === "object" && "made" in state ? state : null;
  return (
    <tr className="align-middle">
      <td className="h-9 w-11 pr-2">
        {made && (
          <img src={thumbnailUrl(made.made, made.version)} alt="" className="mx-auto max-h-8 max-w-10" />
        )}
      </td>
      <td className="max-w-52 truncate">{p.file}</td>
      {member?.made ? (
        <MadeCells made={member.made} />
      ) : (
        <td colSpan={3} className="text-right">
          {(p.problem || member?.problem) && made ? (
            <span className="text-terracotta">
              {p.problem ? refusal(p.problem) : member?.problem?.message}
            </span>
          ) : (
            <Words state={state} />
          )}
        </td>
      )}
    </tr>
  );
}

/** Size, time and findings of a design of a set. */
export function MadeCells({ made }: { made: MemberMade }) {
  return (
    <>
      <td className="px-2 text-right whitespace-nowrap text-soft">
        {made.size[0].toFixed(0)} × {made.size[1].toFixed(0)} mm
      </td>
      <td
        className={clsx("px-2 text-right whitespace-nowrap", made.is_over && "font-semibold text-terracotta")}
      >
        {clock(made.seconds)}
      </td>
      <td className="text-right text-xs whitespace-nowrap text-soft">
        {made.is_over
          ? made.within === null
            ? "no size keeps it"
            : `${fixed(made.within, 1)} mm would keep it`
          : made.findings > 0
            ? `${made.findings} ${made.findings === 1 ? "finding" : "findings"}`
            : "all well"}
      </td>
    </>
  );
}

function Words({ state }: { state: State }) {
  const [words, isBad] =
    state === "waits"
      ? ["", false]
      : state === "reads"
        ? ["reading…", false]
        : "made" in state
          ? ["done", false]
          : [state.why, true];
  return <span className={clsx("max-w-72", isBad ? "text-terracotta" : "text-soft")}>{words}</span>;
}
