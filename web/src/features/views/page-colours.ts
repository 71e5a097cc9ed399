/** Colours of the page as a canvas knows them, by names such as `var(--ink)`; other colours stay as they are. */
export function colours(): (name: string) => string {
  const style = getComputedStyle(document.documentElement);
  const known = new Map<string, string>();
  return (name) => {
    const own = /^var\((.+)\)$/.exec(name)?.[1];
    if (!own) return name;
    const found = known.get(own) ?? style.getPropertyValue(own).trim();
    known.set(own, found);
    return found;
  };
}

/** A colour as the screen shows it, in red, green and blue, whatever it is called: the reader's own colours have names. */
export function onScreen(colour: string): string {
  const probe = document.createElement("span");
  probe.style.color = colour;
  document.body.append(probe);
  const shown = getComputedStyle(probe).color;
  probe.remove();
  return shown;
}
