import { Link } from "wouter";
import { thumbnailUrl } from "../../api/client";
import { complain } from "../../api/complain";
import { withUnit } from "../../ui/length";
import { WordButton } from "../../ui/word-button";
import { MadeCells } from "../shelf/many-row";
import type { Member, SetWork } from "./use-set";
import type { Differs, Usual } from "./usual";

/** So many differences are named in a row. */
const NAMED = 3;

/** The designs of a set, each with its size, time and findings, and with what it has of its own. */
export function SetTable({ work }: { work: SetWork }) {
  return (
    <table className="w-full border-collapse text-sm" aria-label="Designs of the set">
      <tbody>
        {work.members?.map((m) => (
          <Row key={m.item.id} member={m} work={work} />
        ))}
      </tbody>
    </table>
  );
}

function Row({ member: { item, is, differs, why }, work }: { member: Member; work: SetWork }) {
  const { usual } = work;
  return (
    <tr className="border-b border-line align-middle last:border-b-0" data-member={item.id}>
      <td className="h-14 w-16 pr-2">
        <img
          src={thumbnailUrl(item.id, is?.version ?? item.version)}
          alt=""
          className="mx-auto max-h-12 max-w-14"
        />
      </td>
      <td className="max-w-56 py-1 pr-2">
        <Link
          href={`/design/${item.id}/tiers`}
          className="block truncate font-semibold hover:text-glaze hover:underline"
        >
          {item.name}
        </Link>
        {is && usual && differs.length > 0 && (
          <span className="flex flex-wrap items-baseline gap-x-2 text-xs text-glaze" data-differs>
            {differs.slice(0, NAMED).map((d) => (
              <span key={d.name}>{words(d, is, usual, item.recipe)}</span>
            ))}
            {differs.length > NAMED && <span>and {differs.length - NAMED} more</span>}
            <WordButton
              why={work.progress !== null && "The set is being made"}
              onClick={() =>
                void work
                  .change((m) => (m.item.id === item.id ? m.differs.flatMap((d) => d.edits) : []))
                  .catch(complain)
              }
            >
              Make it like the others
            </WordButton>
          </span>
        )}
        {why && (
          <span role="alert" className="block text-xs text-terracotta">
            {why}
          </span>
        )}
      </td>
      {is?.made ? (
        <MadeCells made={is.made} />
      ) : (
        <td colSpan={3} className="text-right text-xs text-terracotta">
          {is?.problem ? `${is.problem.message}. ${is.problem.hint}` : ""}
        </td>
      )}
    </tr>
  );
}

/** What a design has of its own. */
function words(d: Differs, is: NonNullable<Member["is"]>, usual: Usual, recipe: string): string {
  if (d.what === "recipe") return recipe.toLowerCase();
  if (d.what === "filament") {
    const tier = is.tiers.find((t) => t.key === d.name);
    return `${tier?.name.toLowerCase() ?? d.name} in ${tier?.filament ?? ""}`;
  }
  const own = is.measures.find((m) => m.name === d.name);
  const label = (own ?? usual.measures.find((m) => m.name === d.name))?.label.toLowerCase() ?? d.name;
  if (!own) return label;
  const chosen = own.options[own.value];
  return `${label} ${chosen ? chosen.label.toLowerCase() : own.is_length ? withUnit(own.value, is.unit) : own.value}`;
}
