import type { HTMLAttributes } from "react";

interface MathAttributes extends HTMLAttributes<MathMLElement> {
  displaystyle?: "true";
  alttext?: string;
}

/** The elements of MathML Core that formulas are set with; React's own types have none. */
declare module "react" {
  namespace JSX {
    interface IntrinsicElements {
      math: MathAttributes;
      mrow: MathAttributes;
      mi: MathAttributes;
      mn: MathAttributes;
      mo: MathAttributes;
      mtext: MathAttributes;
      msup: MathAttributes;
      mfrac: MathAttributes;
    }
  }
}
