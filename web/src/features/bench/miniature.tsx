/** The plan of a state, small. */
export function Miniature({ src }: { src: string }) {
  return (
    <span className="flex h-9 w-12 flex-none items-center justify-center rounded-xs bg-sunk">
      <img
        src={src}
        alt=""
        loading="lazy"
        className="max-h-8 max-w-11"
        // Before there are tiers, there is nothing to see.
        onError={(e) => e.currentTarget.remove()}
      />
    </span>
  );
}
