import { Button } from "./button";

/** Something to do in a line of the sentence: takes it off, fixes it, asks for it. */
export function AsideButton({ onClick, children }: { onClick: () => void; children: string }) {
  return (
    <Button
      look="dotted"
      className="font-sans text-[0.95rem]"
      // Leaving a figure sets it anew and moves what stands after it: the click comes first.
      onMouseDown={(event) => event.preventDefault()}
      onClick={onClick}
    >
      {children}
    </Button>
  );
}
