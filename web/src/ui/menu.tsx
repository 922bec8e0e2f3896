import type { ReactNode } from "react";
import { Opening } from "./opening";

export interface Action {
  label: string;
  run?: () => void;
  /** A file to export, in place of something to do. */
  href?: string;
}

interface Props {
  name: string;
  children: ReactNode;
  actions: readonly Action[];
}

/** A button that opens into a short list of things to do. */
export function Menu({ name, children, actions }: Props) {
  return (
    <Opening
      name={name}
      className="rounded px-1.5 hover:text-ink"
      list={(lists, opened) => <lists.ActionList {...opened} actions={actions} />}
    >
      {children}
    </Opening>
  );
}
