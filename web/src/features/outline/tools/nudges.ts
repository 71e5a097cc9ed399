import { useCallback, useEffect, useRef } from "react";
import type { Edit } from "../../../api/generated/Edit";
import type { Entry } from "../../../api/generated/Entry";
import type { Px } from "../../artwork/frame";
import { placed, type ToolProps } from "./tool";

/** Keys that follow each other this fast, ms, are saved together. */
const TOGETHER = 140;

/** So long, ms, until a save is tried again that has to wait for another one. */
const AGAIN = 25;

/** What was moved by keys: the entry it is saved in, once that is known, and how far in all. */
export interface Moved {
  /** How many entries there were before it. */
  before: number;
  total: Px;
}

/**
 * The entry that further nudges go into: the last one, if nothing else was done since. Its own total counts, not the one that is
 * saved: a change may be under way.
 */
export function nudgedEntry(list: readonly Entry[], moved: Moved | null): Entry | null {
  const last = list.at(-1);
  return moved && last && list.length === moved.before + 1 && last.change.do === "place" ? last : null;
}

/** Moves what is chosen by keys. Quick ones are seen at once, saved together, and add up exactly. */
export function useNudges({ bench, carried: on }: ToolProps): (by: Px) => void {
  const pending = useRef<Px>([0, 0]);
  const timer = useRef<number | null>(null);
  // The newest save, for a timer that was set earlier.
  const latest = useRef<() => void>(() => undefined);
  const moved = useRef<(Moved & { on: string }) | null>(null);
  // Whether some are being saved, and the version that they made.
  const sent = useRef({ isUnderWay: false, version: 0 });
  const save = useCallback(() => {
    timer.current = null;
    const [dx, dy] = pending.current;
    pending.current = [0, 0];
    if (dx === 0 && dy === 0) return;
    const list = bench.design.document.changes;
    const who = JSON.stringify(on.map((s) => s.root ?? s.at));
    const known = moved.current?.on === who ? moved.current : null;
    const entry = nudgedEntry(list, known);
    const send = (edits: Edit[]) => {
      sent.current.isUnderWay = true;
      bench
        .commit(edits)
        .then((version) => {
          sent.current.version = version ?? 0;
        })
        // Refused: the next nudge makes an entry of its own.
        .catch(() => {
          moved.current = null;
        })
        .finally(() => {
          sent.current.isUnderWay = false;
        });
    };
    if (known && entry && entry.change.do === "place") {
      known.total = [known.total[0] + dx, known.total[1] + dy];
      send([{ kind: "set-change", id: entry.id, change: { ...entry.change, by: known.total } }]);
    } else {
      moved.current = { before: list.length, total: [dx, dy], on: who };
      send([{ kind: "add-change", change: placed(on, { by: [dx, dy] }) }]);
    }
  }, [bench, on]);
  // While some are being saved the patch is not yet where it will be: those that follow go together into the same entry.
  const rest = useCallback(() => {
    if (sent.current.isUnderWay || bench.design.version < sent.current.version)
      timer.current = window.setTimeout(() => latest.current(), AGAIN);
    else save();
  }, [bench, save]);
  const atEnd = useRef(save);
  useEffect(() => {
    latest.current = rest;
    atEnd.current = save;
  }, [rest, save]);
  // Another tool, another station: what is under way is saved.
  useEffect(
    () => () => {
      if (timer.current === null) return;
      clearTimeout(timer.current);
      atEnd.current();
    },
    [],
  );
  return ([dx, dy]) => {
    pending.current = [pending.current[0] + dx, pending.current[1] + dy];
    bench.preview([{ kind: "add-change", change: placed(on, { by: pending.current }) }]);
    if (timer.current !== null) clearTimeout(timer.current);
    timer.current = window.setTimeout(() => latest.current(), TOGETHER);
  };
}
