import { type ComponentType, type ReactNode, useEffect } from "react";
import { createStore, useStore } from "zustand";
import { answers, untilBack } from "../state/away";
import { DialogFrame } from "./dialog";
import { MissingPart } from "./page-problem";

/** A part of the page in a file of its own, which comes when it is wanted or expected. */
export function part<P extends object>(load: () => Promise<ComponentType<P>>) {
  const state = createStore<{ Shown: ComponentType<P> | null; isMissing: boolean }>(() => ({
    Shown: null,
    isMissing: false,
  }));
  let coming: Promise<void> | null = null;
  async function fetchIt() {
    try {
      state.setState({ Shown: await load(), isMissing: false });
    } catch {
      coming = null;
      if (await answers()) state.setState({ isMissing: true });
      else void untilBack().then(come);
    }
  }
  /** Fetches it, once. */
  function come(): Promise<void> {
    coming ??= fetchIt();
    return coming;
  }
  return { come, state };
}

export type Part<P extends object> = ReturnType<typeof part<P>>;

/** A part of the page with what it is given. While it is on its way, `coming` stands in its place. React's `lazy` would show that
 * for at least one frame even where the part is there, and would take the page down where it is not. */
export function PartOf<P extends object>(p: {
  part: Part<P>;
  given: P;
  coming: ReactNode;
  missing?: ReactNode;
}) {
  const { Shown, isMissing } = useStore(p.part.state);
  useEffect(() => void p.part.come(), [p.part]);
  if (Shown) return <Shown {...p.given} />;
  return isMissing ? (p.missing ?? <MissingPart />) : p.coming;
}

/** In the place of a view that is on its way. */
export const SettingUp = () => <p className="p-4 text-sm text-soft">Setting up the view…</p>;

/** A dialog that comes when it is opened. */
export function DialogPart<P extends { onClose: () => void }>(p: { part: Part<P>; given: P }) {
  return (
    <PartOf
      {...p}
      coming={null}
      missing={
        <DialogFrame onClose={p.given.onClose} className="top-[20vh] w-[min(560px,94vw)] p-5">
          <MissingPart />
        </DialogFrame>
      }
    />
  );
}
