import { useId } from "react";

/** A line that is asked for and may stay empty; sent when it is left or by Enter. */
export function AskField(p: {
  label: string;
  placeholder: string;
  disabled?: boolean;
  onAsk: (text: string) => void;
  /** Emptied once it was sent. */
  isOnce?: boolean;
}) {
  const id = useId();
  const ask = (input: HTMLInputElement) => {
    const text = input.value.trim();
    if (p.isOnce) input.value = "";
    if (!p.isOnce || text !== "") p.onAsk(text);
  };
  return (
    <div className="flex items-center gap-2 py-[3px] text-sm">
      <label htmlFor={id} className="flex-1">
        {p.label}
      </label>
      <input
        id={id}
        defaultValue=""
        placeholder={p.placeholder}
        disabled={p.disabled}
        title={p.disabled ? "Wait until all are made" : undefined}
        onBlur={(e) => ask(e.target)}
        onKeyDown={(e) => e.key === "Enter" && ask(e.currentTarget)}
        className="w-28 rounded-tile border border-edge bg-field px-2 py-[3px] text-right text-sm disabled:opacity-50"
      />
    </div>
  );
}
