import { type DragEvent, useState } from "react";

/** Takes files that are dropped on an element; whether some are held over it is told. */
export function useDrop(onFiles: (files: File[]) => void) {
  const [isOver, setOver] = useState(false);
  return {
    isOver,
    drop: {
      onDragOver: (e: DragEvent) => {
        e.preventDefault();
        setOver(true);
      },
      onDragLeave: (e: DragEvent) => e.currentTarget === e.target && setOver(false),
      onDrop: (e: DragEvent) => {
        e.preventDefault();
        setOver(false);
        onFiles([...e.dataTransfer.files]);
      },
    },
  };
}
