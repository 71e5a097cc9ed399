import type { ComponentProps } from "react";
import { Button } from "./button";

/** A word in a panel's head that is on or off. */
export function WordSwitch({
  isOn,
  ...rest
}: Omit<ComponentProps<typeof Button>, "look"> & { isOn: boolean }) {
  return (
    <Button
      look="bare"
      className="h-6 w-auto rounded-tile px-2 text-xs aria-pressed:bg-sunk aria-pressed:text-glaze"
      aria-pressed={isOn}
      {...rest}
    />
  );
}
