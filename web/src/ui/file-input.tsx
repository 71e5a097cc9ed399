import type { Ref } from "react";

/** A hidden choice of one file, or of several where they are asked for, opened by a button. The same file can be chosen twice. */
export function FileInput({
  ref,
  label,
  accept,
  tabIndex,
  onFile,
  onFiles,
}: {
  ref: Ref<HTMLInputElement>;
  label: string;
  accept: string;
  tabIndex?: number;
  onFile?: (file: File) => void;
  onFiles?: (files: File[]) => void;
}) {
  return (
    <input
      ref={ref}
      type="file"
      aria-label={label}
      accept={accept}
      multiple={onFiles !== undefined}
      className="sr-only"
      tabIndex={tabIndex}
      onChange={(e) => {
        const files = [...(e.target.files ?? [])];
        e.target.value = "";
        if (files[0]) onFile?.(files[0]);
        if (files.length > 0) onFiles?.(files);
      }}
    />
  );
}
