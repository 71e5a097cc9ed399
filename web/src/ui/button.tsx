import clsx from "clsx";
import type { ButtonHTMLAttributes, Ref } from "react";
import { useNotices } from "../state/notices";
import { Tip } from "./tip";

interface Props extends Omit<ButtonHTMLAttributes<HTMLButtonElement>, "disabled"> {
  /** `solid` for the one thing to do next, `plain` inside panels, `bare` for icons. */
  look?: "solid" | "plain" | "bare";
  /** Why it does nothing now; false or null where it does. It keeps the focus, and says why when it is pointed at or pressed. */
  why?: string | false | null;
  ref?: Ref<HTMLButtonElement>;
}

/** The one button. There is none that is off without a reason. */
export function Button({ look = "plain", className, type = "button", why, title, onClick, ...rest }: Props) {
  const say = useNotices((s) => s.say);
  const isOff = Boolean(why);
  const { onPointerDown, onKeyDown, ...others } = rest;
  const button = (
    <button
      type={type}
      aria-disabled={isOff || undefined}
      title={isOff ? undefined : title}
      className={clsx(
        "inline-flex items-center justify-center gap-1.5 rounded-tile text-sm font-semibold whitespace-nowrap transition-colors",
        "aria-disabled:cursor-default aria-disabled:opacity-45",
        look === "solid" &&
          "bg-deep px-3 py-1.5 text-on-deep not-aria-disabled:hover:bg-glaze not-aria-disabled:hover:text-on-glaze",
        look === "plain" &&
          "border border-edge bg-tile px-2.5 py-1 not-aria-disabled:hover:border-glaze not-aria-disabled:hover:text-glaze",
        look === "bare" &&
          "size-8 text-ink not-aria-disabled:hover:bg-sunk not-aria-disabled:hover:text-glaze",
        className,
      )}
      {...others}
      {...(isOff ? {} : { onPointerDown, onKeyDown })}
      onClick={
        isOff
          ? (e) => {
              e.preventDefault();
              // Nothing hovers for a finger.
              if ((e.nativeEvent as PointerEvent).pointerType === "touch")
                say({ text: String(why), hint: "", isBad: false, action: null });
            }
          : onClick
      }
    />
  );
  // One tree whether it is off or on, so that the focus stays.
  return why === undefined ? button : <Tip words={why || null}>{button}</Tip>;
}
