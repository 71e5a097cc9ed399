/** So many places that had the focus are remembered: a dialog, the menu it came from, and the page below. */
const REMEMBERED = 12;

/** An element and those round it, each with its place among its siblings, up to the page. */
type Trail = { element: Element; place: number }[];

const FOCUSABLE =
  'a[href], button:not(:disabled), input:not(:disabled, [type="hidden"]), select:not(:disabled), textarea:not(:disabled), [tabindex]:not([tabindex="-1"])';

function trailOf(element: Element): Trail {
  const trail: Trail = [];
  for (let e: Element | null = element; e && e !== document.body; e = e.parentElement)
    trail.push({ element: e, place: e.parentElement ? [...e.parentElement.children].indexOf(e) : 0 });
  return trail;
}

const canTake = (e: Element) =>
  (e instanceof HTMLElement || e instanceof SVGElement) &&
  e.checkVisibility() &&
  e.closest("[inert], [aria-hidden=true]") === null;

/** What in an element can be focused; itself first. */
const withinOf = (e: Element) =>
  [e, ...e.querySelectorAll(FOCUSABLE)].filter((x) => x.matches(FOCUSABLE) && canTake(x));

const isThere = (e: Element) => e.isConnected && e.matches(FOCUSABLE) && canTake(e);

/** The nearest thing to where a trail began that is still there: what took its place, else what stood before it. */
function nearest(trail: Trail): Element | null {
  const [own] = trail;
  if (own && isThere(own.element)) return own.element;
  const at = trail.findIndex((t) => t.element.isConnected);
  const found = trail[at];
  // What has gone altogether, as a dialog does, says nothing.
  if (!found || found.element.id === "root") return null;
  const place = trail[at - 1]?.place ?? 0;
  const children = [...found.element.children];
  for (const child of children.slice(place)) {
    const first = withinOf(child)[0];
    if (first) return first;
  }
  for (const child of children.slice(0, place).toReversed()) {
    const last = withinOf(child).at(-1);
    if (last) return last;
  }
  for (const { element } of trail.slice(at + 1)) {
    if (element.id === "root") break;
    const first = withinOf(element)[0];
    if (first) return first;
  }
  return null;
}

/**
 * Keeps the focus of those who work by keys: when what has it goes (a finding that was mended, a row that was removed, a dialog that
 * is closed), it goes to what took its place, or back to where it came from, instead of to the top of the page.
 */
export function keepFocus(): void {
  const trails: Trail[] = [];
  let isPending = false;
  document.addEventListener("focusin", (e) => {
    if (!(e.target instanceof Element)) return;
    trails.push(trailOf(e.target));
    if (trails.length > REMEMBERED) trails.shift();
  });
  // A finger must not find itself in a field that it has not touched.
  let isByKeys = false;
  document.addEventListener("pointerdown", () => (isByKeys = false), true);
  document.addEventListener("keydown", () => (isByKeys = true), true);
  const look = () => {
    isPending = false;
    const last = trails.at(-1)?.[0]?.element;
    // What is still there was left on purpose.
    if (document.activeElement !== document.body || !last || isThere(last)) return;
    while (trails.length > 0) {
      const trail = trails.at(-1) ?? [];
      const to = nearest(trail);
      if (to instanceof HTMLElement || to instanceof SVGElement) {
        to.focus();
        return;
      }
      trails.pop();
    }
  };
  new MutationObserver(() => {
    if (isPending || !isByKeys || trails.length === 0 || document.activeElement !== document.body) return;
    isPending = true;
    // Whoever closes a dialog may put the focus somewhere first.
    setTimeout(look, 50);
  }).observe(document.body, {
    subtree: true,
    childList: true,
    attributes: true,
    attributeFilter: ["disabled", "hidden", "inert", "aria-hidden"],
  });
}
