import clsx from "clsx";
import type { ButtonHTMLAttributes, Ref } from "react";

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** `solid` for the one thing to do next, `plain` inside panels, `bare` for icons. */
  look?: "solid" | "plain" | "bare";
  ref?: Ref<HTMLButtonElement>;
}

/** The one button. */
export function Button({ look = "plain", className, type = "button", ...rest }: Props) {
  return (
    <button
      type={type}
      className={clsx(
        "inline-flex items-center justify-center gap-1.5 rounded-tile text-sm font-semibold whitespace-nowrap transition-colors",
        "disabled:cursor-default disabled:opacity-45",
        look === "solid" &&
          "bg-deep px-3 py-1.5 text-on-deep enabled:hover:bg-glaze enabled:hover:text-on-glaze",
        look === "plain" &&
          "border border-edge bg-tile px-2.5 py-1 enabled:hover:border-glaze enabled:hover:text-glaze",
        look === "bare" && "size-8 text-ink enabled:hover:bg-sunk enabled:hover:text-glaze",
        className,
      )}
      {...rest}
    />
  );
}
