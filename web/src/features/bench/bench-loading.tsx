/** The bench while its design is on the way. */
export function BenchLoading() {
  return (
    <main
      className="grid h-full grid-rows-[52px_104px_1fr] gap-1.5 p-1.5 narrow:grid-rows-[44px_54px_1fr] narrow:gap-1 narrow:p-1"
      aria-busy="true"
      aria-label="Loading"
    >
      {["a", "b", "c"].map((k) => (
        <div key={k} className="animate-pulse rounded-tile bg-tile" />
      ))}
    </main>
  );
}

/** In the place of a station that is on its way. */
export const StationComing = () => (
  <div className="animate-pulse rounded-tile bg-tile" aria-busy="true" role="status" aria-label="Loading" />
);
