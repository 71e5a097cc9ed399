import { useEffect, useEffectEvent, useState } from "react";
import type { Bench } from "../../../api/bench";
import type { DrawnLine } from "../../../api/generated/DrawnLine";
import type { Edit } from "../../../api/generated/Edit";

/**
 * Lines that a hand changes: seen at once, and saved one after the other. What comes while others are being saved waits for them,
 * because they may make the entry that it belongs to.
 */
export function useSaves(p: {
  bench: Bench;
  /** The edit that saves the lines, as the design is now. */
  editOf: (lines: DrawnLine[]) => Edit | null;
  /** They went into an entry that was not among these. */
  onAdded: (before: ReadonlySet<number>) => void;
}) {
  const { bench } = p;
  const [live, setLive] = useState<DrawnLine[] | null>(null);
  const [waiting, setWaiting] = useState<DrawnLine[] | null>(null);
  // What is being saved, and the version of the design that it has become.
  const [sent, setSent] = useState<{ lines: DrawnLine[]; version: number | null } | null>(null);
  const isSaving = sent !== null && (sent.version === null || bench.design.version < sent.version);
  const send = (lines: DrawnLine[]) => {
    const edit = p.editOf(lines);
    setWaiting(null);
    if (!edit) return;
    const before = new Set(bench.design.document.changes.map((e) => e.id));
    setLive(lines);
    setSent({ lines, version: null });
    bench
      .commit([edit])
      .then((version) => {
        if (edit.kind === "add-change") p.onAdded(before);
        setSent({ lines, version: version ?? 0 });
      })
      // Refused: the bench says so.
      .catch(() => setSent({ lines, version: 0 }));
  };
  const onSaved = useEffectEvent(() => {
    if (waiting) send(waiting);
    else setLive((now) => (now === sent?.lines ? null : now));
  });
  useEffect(() => {
    if (!isSaving) onSaved();
  }, [isSaving]);
  return {
    /** What a hand has made of them that is not saved yet. */
    live,
    /** Shows them; nothing is saved. */
    show: (lines: DrawnLine[] | null) => {
      setLive(lines);
      const edit = lines && p.editOf(lines);
      if (edit) bench.preview([edit]);
    },
    save: (lines: DrawnLine[]) => {
      setLive(lines);
      if (isSaving) setWaiting(lines);
      else send(lines);
    },
  };
}
