import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, refusal } from "../../api/client";
import type { Edit } from "../../api/generated/Edit";
import type { SetMember } from "../../api/generated/SetMember";
import type { ShelfItem } from "../../api/generated/ShelfItem";
import { useInTurn } from "../../api/in-turn";
import { MEMBERS, memberQuery, useMembers } from "../../api/members";
import { SHELF, shelfQuery } from "../../api/shelf-query";
import { versionOf } from "../../api/use-others";
import { startedAs } from "./alike";
import { type Differs, differsIn, type Usual, usualOf } from "./usual";

/** A design of the set, as far as it is known. */
export interface Member {
  item: ShelfItem;
  is: SetMember | undefined;
  /** In what it is not as the others. */
  differs: Differs[];
  /** Why the last change did not reach it, or why nothing is known of it. */
  why: string | null;
}

/** A design of the set that is made. */
export type Known = Pick<Member, "item" | "differs"> & { is: SetMember };

/** What a change does to one of the designs, where most have `usual`; nothing for one that stays as it is. */
export type Change = (member: Known, usual: Usual) => Edit[];

export interface SetWork {
  members: Member[] | undefined;
  usual: Usual | undefined;
  /** Changes one design after the other, those that are still being made as well: they are waited for. Rejects where the first refuses; where a
   * later one does, its row says why. */
  change: (changes: Change) => Promise<number>;
  /** Takes back the last change of all of them together. */
  undo: (() => void) | null;
  /** So many of so many are done. */
  progress: { done: number; of: number } | null;
  add: (files: readonly File[]) => Promise<void>;
  /** Those that became objects; what is still being made is waited for. */
  objects: () => Promise<string[]>;
}

const versionNow = async (id: string) => (await versionOf(`/api/designs/${id}`)).version;

/** By name: what was changed last comes first on the shelf, and rows would jump about here. */
const labelled = (items: readonly ShelfItem[], label: string) =>
  items
    .filter((d) => d.labels.includes(label))
    .sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }));

/** The designs with a label, worked on together. */
export function useSet(label: string, limit: string): SetWork {
  const cache = useQueryClient();
  const { data: items } = useQuery({ ...shelfQuery, refetchOnMount: "always" });
  const inSet = items && labelled(items, label);
  const asked = useMembers(inSet?.map((d) => d.id) ?? [], limit);
  const [refused, setRefused] = useState<ReadonlyMap<string, string>>(new Map());
  const [progress, setProgress] = useState<SetWork["progress"]>(null);
  const [steps, setSteps] = useState<readonly (readonly string[])[]>([]);
  const { inTurn } = useInTurn();
  const usual = usualOf(asked.flatMap((a) => (a.data ? [a.data] : [])));
  const members = inSet?.map((item, k): Member => {
    const error = asked[k]?.error;
    const is = asked[k]?.data;
    const differs = is && usual ? differsIn(is, usual) : [];
    return { item, is, differs, why: refused.get(item.id) ?? (error ? refusal(error) : null) };
  });
  const refresh = async () => {
    await Promise.all([
      cache.invalidateQueries({ queryKey: MEMBERS }),
      cache.invalidateQueries({ queryKey: SHELF }),
      cache.invalidateQueries({ queryKey: ["design"] }),
    ]);
  };

  /** What the server says of each that is in the set by now, once it is made; undefined where it can't be said. */
  const said = () =>
    Promise.all(
      labelled(cache.getQueryData<ShelfItem[]>(SHELF) ?? [], label).map(async (item) => {
        const query = cache.fetchQuery({ ...memberQuery(item.id, limit), staleTime: Infinity });
        return { item, is: await query.catch(() => undefined) };
      }),
    );

  async function all() {
    const known = (await said()).flatMap((m) => (m.is ? [{ ...m, is: m.is }] : []));
    const usual = usualOf(known.map((m) => m.is));
    return { known, usual };
  }

  async function change(editsOf: Change): Promise<number> {
    const done: string[] = [];
    const whys = new Map<string, string>();
    try {
      setProgress({ done: 0, of: inSet?.length ?? 0 });
      const { known, usual } = await all();
      if (!usual) return 0;
      const changes = known.flatMap((m) => {
        const edits = editsOf({ ...m, differs: differsIn(m.is, usual) }, usual);
        return edits.length > 0 ? [{ id: m.item.id, edits }] : [];
      });
      for (const [n, { id, edits }] of changes.entries()) {
        setProgress({ done: n, of: changes.length });
        try {
          await api.edit(id, await versionNow(id), edits);
          done.push(id);
        } catch (e) {
          // What the first one refuses was meant for all.
          if (n === 0) throw e;
          whys.set(id, refusal(e));
        }
      }
    } finally {
      setProgress(null);
      setRefused(whys);
    }
    if (done.length > 0) setSteps((all) => [...all, done]);
    await refresh();
    return done.length;
  }

  async function undo(ids: readonly string[]) {
    const whys = new Map<string, string>();
    for (const [n, id] of ids.entries()) {
      setProgress({ done: n, of: ids.length });
      try {
        await api.undo(id, await versionNow(id));
      } catch (e) {
        whys.set(id, refusal(e));
      }
    }
    setProgress(null);
    setRefused(whys);
    setSteps((all) => all.slice(0, -1));
    await refresh();
  }

  async function add(files: readonly File[]) {
    const refusals: string[] = [];
    setProgress({ done: 0, of: files.length });
    const { usual } = await all();
    for (const [n, file] of files.entries()) {
      setProgress({ done: n, of: files.length });
      try {
        const made = usual ? await startedAs(file, usual) : (await api.upload(file)).id;
        await api.label([made], [label], []);
      } catch (e) {
        refusals.push(`${file.name}: ${refusal(e)}`);
      }
    }
    setProgress(null);
    await refresh();
    if (refusals.length > 0) throw new Error(refusals.join(". "));
  }

  async function objects(): Promise<string[]> {
    return (await said()).filter((m) => m.is?.made).map((m) => m.item.id);
  }

  const last = steps.at(-1);
  return {
    members,
    usual,
    change: (editsOf) => inTurn(() => change(editsOf)),
    undo: last && !progress ? () => void inTurn(() => undo(last)) : null,
    progress,
    add: (files) => inTurn(() => add(files)),
    objects,
  };
}
