import type { Column } from "../../api/types";

interface Shape {
  /** How wide it is, in rem. */
  wide: number;
  /** Figures stand to the right. */
  isFigure?: boolean;
  /** The list can be sorted by it. */
  sorts?: boolean;
}

/** The columns in the order in which they stand. */
const SHAPES: Record<Column, Shape> = {
  amount: { wide: 8.5, isFigure: true, sorts: true },
  rate: { wide: 5.5, isFigure: true, sorts: true },
  payment: { wide: 8, isFigure: true, sorts: true },
  term: { wide: 8.5, isFigure: true, sorts: true },
  effective: { wide: 6.5, isFigure: true, sorts: true },
  asked: { wide: 7.5, sorts: true },
  answer: { wide: 10, isFigure: true, sorts: true },
  tags: { wide: 7 },
  created: { wide: 5.5, isFigure: true, sorts: true },
  changed: { wide: 5.5, isFigure: true, sorts: true },
};
/** Which of them go first where there is no room for all; the answer goes last. */
const LEAST_FIRST: readonly Column[] = [
  "created",
  "effective",
  "changed",
  "tags",
  "asked",
  "payment",
  "term",
  "rate",
  "amount",
  "answer",
];
/** What else stands in a row, in rem: the box to pick it, the name at least, the menu. */
const PICK = 2.5;
const NAME = 13;
const MENU = 2.75;
/** Below so many rem no columns stand: the answer stands under the name. */
const LEAST = 38;

export const COLUMNS = Object.keys(SHAPES) as Column[];
export const isFigure = (column: Column) => SHAPES[column].isFigure ?? false;
export const sorts = (column: Column) => SHAPES[column].sorts ?? false;

/** Whether a list of so many rem has columns. */
export const hasColumns = (rem: number) => rem >= LEAST;

/** Of the columns chosen, those for which there is room, in their order; none where the answer
 *  stands under the name. */
export function thatFit(chosen: readonly string[], rem: number): Column[] {
  if (!hasColumns(rem)) return [];
  const fit = COLUMNS.filter((column) => chosen.includes(column));
  const taken = () => fit.reduce((sum, column) => sum + SHAPES[column].wide, PICK + NAME + MENU);
  for (const column of LEAST_FIRST) {
    if (taken() <= rem) break;
    if (fit.includes(column)) fit.splice(fit.indexOf(column), 1);
  }
  return fit;
}

/** A row with these columns, as a grid. */
export function gridOf(columns: readonly Column[]): string {
  const wide = columns.map((column) => `${SHAPES[column].wide}rem`);
  return [`${PICK}rem`, "minmax(0,1fr)", ...wide, `${MENU}rem`].join(" ");
}
