import { type DragEvent, useState } from "react";

/** What an element does that takes one dropped file. It owns whether something is dragged over it just now. */
export function useFileDrop(take: (file: File) => void) {
  const [over, setOver] = useState(false);
  return {
    over,
    drop: {
      onDragOver: (e: DragEvent) => {
        e.preventDefault();
        setOver(true);
      },
      onDragLeave: () => setOver(false),
      onDrop: (e: DragEvent) => {
        e.preventDefault();
        setOver(false);
        const [file] = e.dataTransfer.files;
        if (file) take(file);
      },
    },
  };
}
