import type { Ref } from "react";

/** A hidden choice of one file, opened by a button. The same file can be chosen twice. */
export function FileInput({
  ref,
  label,
  accept,
  tabIndex,
  onFile,
}: {
  ref: Ref<HTMLInputElement>;
  label: string;
  accept: string;
  tabIndex?: number;
  onFile: (file: File) => void;
}) {
  return (
    <input
      ref={ref}
      type="file"
      aria-label={label}
      accept={accept}
      className="sr-only"
      tabIndex={tabIndex}
      onChange={(e) => {
        const file = e.target.files?.[0];
        e.target.value = "";
        if (file) onFile(file);
      }}
    />
  );
}
