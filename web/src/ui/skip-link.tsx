/** The first thing that Tab comes to: past the bar, to the page's own work. */
export function SkipLink() {
  const skip = () => {
    const main = document.querySelector("main");
    if (!main) return;
    main.tabIndex = -1;
    main.focus();
  };
  return (
    <button
      type="button"
      className="sr-only z-50 rounded-tile bg-deep text-sm font-semibold text-on-deep focus:not-sr-only focus:fixed focus:top-2 focus:left-2 focus:px-4 focus:py-2"
      onClick={skip}
    >
      To the work
    </button>
  );
}
