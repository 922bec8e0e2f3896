import { Fragment } from "react";
import { partsOf, type Part } from "./formula-parts";

const stripped = (part: Part) => (part.kind === "brackets" ? part.parts : [part]);

/** A formula set as one, by MathML. */
export function Formula({ text }: { text: string }) {
  const parts = partsOf(text);
  // What is told in words alone is no formula.
  if (!parts.some((part) => part.kind !== "words" && part.kind !== "sign"))
    return <span className="italic">{text}</span>;
  return (
    <math displaystyle="true" alttext={text}>
      <Row parts={parts} />
    </math>
  );
}

const SPACE = "\u00a0";

/** Whether words stand beside something that is no sign, so that a space belongs between. */
const isApart = (before: Part | undefined, part: Part) =>
  before !== undefined &&
  (before.kind === "words" || part.kind === "words") &&
  before.kind !== "sign" &&
  part.kind !== "sign";

/** Parts one after the other; `small`: in a power, where fractions lie in the line. */
function Row({ parts, small = false }: { parts: readonly Part[]; small?: boolean }) {
  return (
    <mrow>
      {parts.map((part, place) => (
        <Fragment key={place}>
          {isApart(parts[place - 1], part) && <mtext>{SPACE}</mtext>}
          <Set part={part} small={small} />
        </Fragment>
      ))}
    </mrow>
  );
}

function Brackets({ parts, small }: { parts: readonly Part[]; small: boolean }) {
  return (
    <mrow>
      <mo>(</mo>
      <Row parts={parts} small={small} />
      <mo>)</mo>
    </mrow>
  );
}

function Set({ part, small }: { part: Part; small: boolean }) {
  switch (part.kind) {
    case "number":
      return <mn>{part.text}</mn>;
    case "letter":
      return <mi>{part.text}</mi>;
    case "words":
      return <mtext>{part.text}</mtext>;
    case "sign":
      return <mo>{part.text}</mo>;
    case "brackets":
      return <Brackets parts={part.parts} small={small} />;
    case "function":
      return (
        <mrow>
          <mi>{part.name}</mi>
          <Brackets parts={part.parts} small={small} />
        </mrow>
      );
    case "power":
      return (
        <msup>
          <Set part={part.base} small={small} />
          <Row parts={part.parts} small />
        </msup>
      );
    case "fraction":
      if (small)
        return (
          <mrow>
            <Set part={part.over} small />
            <mo>/</mo>
            <Set part={part.under} small />
          </mrow>
        );
      return (
        <mfrac>
          <Row parts={stripped(part.over)} />
          <Row parts={stripped(part.under)} />
        </mfrac>
      );
  }
}

const CLOSE = [",", ";", ":", "%"];

/** A formula with its figures, in the line, so that a long one goes on in the next. */
export function Figures({ text }: { text: string }) {
  return <InLine parts={partsOf(text)} />;
}

function InLine({ parts }: { parts: readonly Part[] }) {
  return parts.map((part, place) => (
    <Fragment key={place}>
      {place > 0 && !(part.kind === "sign" && CLOSE.includes(part.text)) && " "}
      <Told part={part} />
    </Fragment>
  ));
}

function Told({ part }: { part: Part }) {
  switch (part.kind) {
    case "brackets":
    case "function":
      return (
        <>
          {part.kind === "function" && part.name}(<InLine parts={part.parts} />)
        </>
      );
    case "power":
      return (
        <>
          <Told part={part.base} />
          <sup>
            <InLine parts={part.parts} />
          </sup>
        </>
      );
    case "fraction":
      return (
        <>
          <Told part={part.over} /> / <Told part={part.under} />
        </>
      );
    default:
      return part.text;
  }
}
