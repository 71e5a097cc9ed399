import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, refusal } from "../../api/client";
import type { Edit } from "../../api/generated/Edit";
import type { SetMember } from "../../api/generated/SetMember";
import type { ShelfItem } from "../../api/generated/ShelfItem";
import { MEMBERS, useMembers } from "../../api/members";
import { versionOf } from "../../api/use-others";
import { SHELF, shelfQuery } from "../../api/shelf-query";
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

/** Edits for some of the designs. */
export type Change = readonly { id: string; edits: Edit[] }[];

export interface SetWork {
  members: Member[] | undefined;
  usual: Usual | undefined;
  /** Changes one design after the other. Rejects where the first refuses; where a later one does, its row says why. */
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

/** The designs with a label, worked on together. */
export function useSet(label: string, limit: string): SetWork {
  const cache = useQueryClient();
  const { data: items } = useQuery({ ...shelfQuery, refetchOnMount: "always" });
  // By name: what was changed last comes first on the shelf, and rows would jump about here.
  const inSet = items
    ?.filter((d) => d.labels.includes(label))
    .sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }));
  const asked = useMembers(inSet?.map((d) => d.id) ?? [], limit);
  const [refused, setRefused] = useState<ReadonlyMap<string, string>>(new Map());
  const [progress, setProgress] = useState<SetWork["progress"]>(null);
  const [steps, setSteps] = useState<readonly (readonly string[])[]>([]);
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

  async function change(changes: Change): Promise<number> {
    const done: string[] = [];
    const whys = new Map<string, string>();
    try {
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
    setSteps((all) => [...all, done]);
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
    const known = asked.map(async (a) => a.data ?? (await a.refetch({ cancelRefetch: false })).data);
    const all = await Promise.all(known);
    return (inSet ?? []).filter((_, k) => all[k]?.made).map((d) => d.id);
  }

  const last = steps.at(-1);
  return {
    members,
    usual,
    change,
    undo: last && !progress ? () => void undo(last) : null,
    progress,
    add,
    objects,
  };
}
