import type { SideBySide } from "../../api/types";
import { Button } from "../../ui/button";
import { RowHead, Table } from "../../ui/table";
import { Swatch } from "./overlay";
import { t } from "../../texts";

type Row = SideBySide["terms"][number];

interface Props {
  beside: SideBySide;
  busy: boolean;
  mayEdit: boolean;
  onBase: (place: number) => void;
  onTakeOff: (place: number) => void;
}

/** Loans column by column, each held against the base. */
export function Compared({ beside, busy, ...heads }: Props) {
  return (
    <Table aria-label={t("Side by side")} className="mt-2" aria-busy={busy}>
      <thead>
        <tr className="align-bottom">
          <td className="w-52" />
          {beside.names.map((name, place) => (
            <th
              key={place}
              scope="col"
              className={`min-w-40 px-4 pt-2 pb-1 text-left font-semibold ${place === beside.base ? "bg-owed-fill" : ""}`}
            >
              <Head beside={beside} place={place} name={name} {...heads} />
            </th>
          ))}
        </tr>
      </thead>
      <Rows title={t("Terms")} rows={beside.terms} beside={beside} />
      <Rows title={t("Results")} rows={beside.results} beside={beside} />
    </Table>
  );
}

function Head({
  beside,
  place,
  name,
  mayEdit,
  onBase,
  onTakeOff,
}: Omit<Props, "busy"> & { place: number; name: string }) {
  const wrong = beside.wrong[place];
  return (
    <>
      <Swatch place={place} />
      <span className="block">{name}</span>
      <span className="text-sm font-normal text-soft">{beside.currencies[place]}</span>
      {wrong && <span className="block text-sm font-normal text-wrong">{wrong}</span>}
      {mayEdit && (
        <span className="flex flex-wrap gap-x-3 text-sm font-normal print:hidden">
          {place === beside.base ? (
            <span className="text-soft">{t("the base")}</span>
          ) : (
            !wrong && (
              <Button look="link" onClick={() => onBase(place)}>
                {t("make it the base")}
                <span className="sr-only"> {name}</span>
              </Button>
            )
          )}
          {place > 0 && (
            <Button look="link" onClick={() => onTakeOff(place)}>
              {t("take off")}
              <span className="sr-only"> {name}</span>
            </Button>
          )}
        </span>
      )}
    </>
  );
}

function Rows({ title, rows, beside }: { title: string; rows: Row[]; beside: SideBySide }) {
  return (
    <tbody>
      <tr>
        <th
          scope="rowgroup"
          colSpan={beside.names.length + 1}
          className="pt-4 pb-1 text-left font-serif text-lg font-semibold"
        >
          {title}
        </th>
      </tr>
      {rows.map((row) => (
        <tr key={row.name} className="border-t border-rule align-top">
          <RowHead className={`font-normal ${row.stands_out ? "text-ink" : "text-soft"}`}>
            {row.stands_out && (
              <span
                className="mr-2 inline-block size-2 rounded-full bg-choice"
                role="img"
                aria-label={t("differs")}
              />
            )}
            {row.name}
          </RowHead>
          {row.cells.map((cell, place) => (
            <td
              key={place}
              className={`px-4 py-1.5 text-left ${place === beside.base ? "bg-owed-fill" : ""}`}
            >
              <span className={row.stands_out ? "font-semibold" : "text-soft"}>
                {cell.text ?? "–"}
              </span>
              {place !== beside.base && cell.differs && (
                <span className="block text-sm whitespace-nowrap text-soft">
                  {cell.differs}
                  {cell.percent && <> · {cell.percent}</>}
                </span>
              )}
            </td>
          ))}
        </tr>
      ))}
    </tbody>
  );
}
