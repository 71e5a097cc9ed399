import clsx from "clsx";
import { useEffect, useId, useRef, useState } from "react";
import { refusal } from "../api/client";
import type { Unit } from "../api/generated/Unit";
import { Icon } from "./icons";
import { shown, stepped, stepsOf } from "./length";
import { local } from "./numbers";

interface Props {
  label: string;
  /** What the measure does; shown as the field's title. */
  meaning?: string;
  /** Millimetres. */
  value: number;
  /** Null for what is no length. */
  unit: Unit | null;
  /** Step of the arrow keys, millimetres. */
  step: number;
  /** Sends what was typed; the server reads and checks it. */
  onCommit: (text: string) => Promise<unknown>;
  /** What will print, or how wide in lines. */
  note?: string | undefined;
  /** Gives the default back; absent where the value is the default. */
  onReset?: (() => void) | undefined;
  disabled?: boolean;
}

/** A number with a unit: typed text goes to the server as it is, and what the server says to it is shown below. */
export function MeasureField(p: Props) {
  const id = useId();
  const text = p.unit === null ? local(String(p.value)) : shown(p.value, p.unit, 1);
  const [draft, setDraft] = useState<string | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  // Leaving the field does not ask once more for what was refused.
  const lastRefused = useRef<string | null>(null);
  const input = useRef<HTMLInputElement>(null);

  // A new value from elsewhere (undo, a handle) makes what was refused meaningless.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the value is the trigger
  useEffect(() => {
    const old = lastRefused.current;
    lastRefused.current = null;
    setRefused(null);
    if (old !== null) setDraft((now) => (now === old ? null : now));
  }, [p.value]);

  // What is being saved: leaving the field does not save it once more.
  const sent = useRef<string | null>(null);

  async function commit(typed: string) {
    if (sent.current === typed) return false;
    sent.current = typed;
    const refusedAs = await p.onCommit(typed).then(() => null, refusal);
    if (sent.current === typed) sent.current = null;
    setRefused(refusedAs);
    if (refusedAs !== null) {
      lastRefused.current = typed;
      return false;
    }
    // Something else may have been typed meanwhile.
    setDraft((now) => (now === typed ? null : now));
    return true;
  }

  return (
    <div className="py-[3px]">
      <div className="flex items-center gap-2">
        <label htmlFor={id} className="flex-1 text-sm" title={p.meaning}>
          {p.label}
        </label>
        {p.onReset && (
          <button
            type="button"
            onClick={p.onReset}
            className="rounded-tile p-0.5 text-soft hover:text-glaze"
            aria-label={`Default ${p.label.toLowerCase()}`}
            title="Back to the default"
          >
            <Icon name="reset" className="size-4" />
          </button>
        )}
        <div
          className={clsx(
            "flex w-[92px] items-baseline rounded-tile border bg-field pr-2 focus-within:border-glaze focus-within:outline-2 focus-within:-outline-offset-1 focus-within:outline-glaze",
            refused ? "border-terracotta" : "border-edge",
          )}
        >
          <input
            ref={input}
            id={id}
            disabled={p.disabled}
            value={draft ?? text}
            inputMode="decimal"
            autoComplete="off"
            spellCheck={false}
            // What was typed is saved, so undo is the page's.
            data-saved={draft === null || undefined}
            aria-invalid={refused !== null}
            aria-describedby={`${id}-note`}
            className="w-full min-w-0 bg-transparent py-[3px] pr-1 pl-2 text-right text-sm outline-none disabled:opacity-50"
            onFocus={(e) => e.target.select()}
            onChange={(e) => setDraft(e.target.value)}
            onBlur={() => {
              if (refused !== null && draft === lastRefused.current) return;
              if (draft !== null && draft.trim() !== text) void commit(draft);
              else setDraft(null);
            }}
            onKeyDown={(e) => {
              if (e.key === "Enter" && draft !== null)
                void commit(draft).then((ok) => {
                  // A hand that has moved on meanwhile keeps its place.
                  if (ok && document.activeElement === input.current) input.current?.select();
                });
              if (e.key === "Escape") {
                setDraft(null);
                setRefused(null);
              }
              const steps = e.key === "ArrowUp" || e.key === "ArrowDown" ? stepsOf(e) : 0;
              if (steps !== 0) {
                e.preventDefault();
                setDraft(null);
                const to = stepped(p.value, p.step, p.unit === null ? Math.sign(steps) : steps);
                void commit(p.unit === null ? String(to) : `${to} mm`);
              }
            }}
          />
          <span className="text-xs text-soft">{/[a-z"]/i.test(draft ?? "") ? "" : p.unit}</span>
        </div>
      </div>
      <div id={`${id}-note`}>
        {refused ? (
          <p role="alert" className="pt-1 text-xs text-terracotta">
            {refused}
          </p>
        ) : (
          p.note && <p className="pt-0.5 text-right text-xs text-soft">{p.note}</p>
        )}
      </div>
    </div>
  );
}
