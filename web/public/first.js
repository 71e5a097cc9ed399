// Runs before anything is painted, so that the workshop at night does not flash, and while the page's own scripts are on the way.
(() => {
  let saved = null;
  try {
    saved = localStorage.getItem("kachel-dark");
  } catch {}
  const isDark = saved === null ? matchMedia("(prefers-color-scheme: dark)").matches : saved === "yes";
  document.documentElement.classList.toggle("dark", isDark);
  // The shelf is asked for now; `api/ahead.ts` takes the answer.
  const path = "/api/designs";
  if (location.pathname === "/") window.kachelAhead = { path, answer: fetch(path).catch(() => null) };
})();
