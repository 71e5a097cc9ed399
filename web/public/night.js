// Runs before anything is painted, so that the workshop at night does not flash.
(() => {
  let saved = null;
  try {
    saved = localStorage.getItem("kachel-dark");
  } catch {}
  const isDark = saved === null ? matchMedia("(prefers-color-scheme: dark)").matches : saved === "yes";
  document.documentElement.classList.toggle("dark", isDark);
})();
