import { useEffect } from "react";
import { DIALOGS } from "../parts";
import { useInterface } from "../state/interface";
import { DialogPart } from "./part";

/** Whether a key was meant for a field rather than for the page, or is one of those that are switched off. */
export function isTyping(e: KeyboardEvent): boolean {
  const isAlone = e.key.length === 1 && !e.ctrlKey && !e.metaKey && !e.altKey;
  if (isAlone && !useInterface.getState().hasLetterKeys) return true;
  const t = e.target instanceof HTMLElement ? e.target : null;
  // A field whose text is saved has nothing to take back itself.
  if (t?.dataset.saved && (e.ctrlKey || e.metaKey) && /^[zy]$/i.test(e.key)) return false;
  return t !== null && (t.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(t.tagName));
}

export function Help() {
  const { helpIsOpen, setHelp } = useInterface();
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.key === "?" && !isTyping(e)) setHelp(true);
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, [setHelp]);
  return helpIsOpen && <DialogPart part={DIALOGS.keys} given={{ onClose: () => setHelp(false) }} />;
}
