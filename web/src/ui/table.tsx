import type { ComponentProps, ReactNode } from "react";
import type { RowTold, TableTold } from "../api/types";
import { useScrolls } from "../hooks/use-width";
import { Word } from "./word";

/** A table of figures; where it is wider than the page it scrolls by itself, by keys too. */
export function Table({ className = "", ...rest }: ComponentProps<"table">) {
  const [box, scrolls] = useScrolls<HTMLDivElement>();
  const region = { role: "region", "aria-label": rest["aria-label"] ?? "Table", tabIndex: 0 };
  return (
    <div
      ref={box}
      className="relative overflow-x-auto overflow-y-hidden"
      {...(scrolls ? region : {})}
    >
      <table className={`w-full ${className}`.trim()} {...rest} />
    </div>
  );
}

/** What stands over the columns: the first to the left, figures to the right. */
export function Heads({ heads, left = 1 }: { heads: readonly ReactNode[]; left?: number }) {
  return (
    <thead>
      <tr className="border-b border-rule-strong text-sm text-soft">
        {heads.map((head, place) =>
          head === "" ? (
            <td key={place} />
          ) : (
            <th
              key={place}
              scope="col"
              className={`py-1 font-normal ${place < left ? "pr-4 text-left" : "pl-4 text-right"}`}
            >
              {head}
            </th>
          ),
        )}
      </tr>
    </thead>
  );
}

/** What a row is about. */
export function RowHead({ className = "", ...rest }: ComponentProps<"th">) {
  return <th scope="row" className={`py-1 pr-3 text-left font-[inherit] ${className}`} {...rest} />;
}

/** A figure of a row. */
export function Cell({ className = "", ...rest }: ComponentProps<"td">) {
  return <td className={`py-1 pl-4 text-right ${className}`} {...rest} />;
}

interface ToldProps {
  label: string;
  told: TableTold;
  /** The column of the figures one came for, counted from 0 without the titles. */
  strong?: number;
  className?: string;
}

/** A table as the server tells it. */
export function ToldTable({ label, told, strong, className = "" }: ToldProps) {
  return (
    <Table aria-label={label} className={className}>
      {told.heads.some(Boolean) && <Heads heads={told.heads} />}
      <tbody>
        {told.rows.map((row, number) => (
          <tr key={`${number} ${row.title}`} className="border-b border-rule">
            <RowHead className="font-normal">{row.title}</RowHead>
            {row.cells.map((cell, place) => (
              <Cell key={place} className={place === strong ? "font-semibold" : ""}>
                {cell}
              </Cell>
            ))}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

interface Fact {
  title: string;
  text: ReactNode;
  /** Its word in the glossary. */
  name?: string;
}

/** Results one under the other: what each is called, and what it is. */
export function Facts({ facts }: { facts: readonly Fact[] }) {
  return (
    <dl className="grid content-start gap-y-1">
      {facts.map(({ title, text, name }) => (
        <div key={title} className="flex justify-between gap-4">
          <dt className="text-soft">{name ? <Word of={name}>{title}</Word> : title}</dt>
          <dd className="max-w-[65%] shrink-0 text-right font-semibold break-words">{text}</dd>
        </div>
      ))}
    </dl>
  );
}

/** Rows of a title and a text, as facts. */
export const factsOf = (rows: readonly RowTold[]) =>
  rows.map(({ title, cells }) => ({ title, text: cells[0] ?? "" }));
