import { useEffect, useRef, useState } from "react";
import { Button, type Look } from "./button";

interface Props {
  /** What the field is called, and what the button says. */
  name: string;
  children: string;
  /** The names such files have. */
  accept: string;
  onFile: (file: File) => void;
  look?: Look;
  title?: string;
  disabled?: boolean;
}

/** Opens a file. */
export function Upload({ name, children, accept, onFile, look = "plain", ...rest }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={name}
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = "";
        }}
      />
      <Button look={look} onClick={() => input.current?.click()} {...rest}>
        {children}
      </Button>
    </>
  );
}

/** A file dropped anywhere on the page; whether one is held over it. */
export function useDrop(onFile: (file: File) => void): boolean {
  const [over, setOver] = useState(false);
  useEffect(() => {
    const drag = (event: DragEvent) => {
      if (!event.dataTransfer?.types.includes("Files")) return;
      event.preventDefault();
      setOver(event.type === "dragover");
      const file = event.dataTransfer.files[0];
      if (event.type === "drop" && file) onFile(file);
    };
    const kinds = ["dragover", "dragleave", "drop"] as const;
    kinds.forEach((kind) => addEventListener(kind, drag));
    return () => kinds.forEach((kind) => removeEventListener(kind, drag));
  }, [onFile]);
  return over;
}

/** A file's name without its ending. */
export const nameOf = (file: File) => file.name.replace(/\.\w+$/, "");
