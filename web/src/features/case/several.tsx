import { Link, useSearchParams } from "react-router";
import { useSeveralSideBySide } from "../../api/beside";
import { useDesk } from "../../hooks/use-desk";
import { Beside } from "./beside";
import { rich, t } from "../../texts";

/** The cases of an address and which of them is the base; both change with the address. */
function useOf() {
  const [search, setSearch] = useSearchParams();
  const of = (search.get("of") ?? "").split(",").filter(Boolean);
  const asked = of.indexOf(search.get("base") ?? "");
  const base = Math.max(asked, 0);
  const set = (next: readonly string[], first: string | undefined) =>
    setSearch({ of: next.join(","), ...(first && first !== next[0] ? { base: first } : {}) });
  return { of, base, set };
}

/** Cases picked in the list, side by side; the address says which, and nothing else keeps it. */
export function SeveralPage() {
  const { marks } = useDesk();
  const { of, base, set } = useOf();
  const table = useSeveralSideBySide(of, base, marks.name);
  const asked = of.map((id) => `of=${id}`).join("&");
  return (
    <Beside
      title={t("Side by side")}
      table={table}
      file={`/api/v1/cases/side-by-side/file?${asked}&base=${base}`}
      mayEdit
      alone={t("One case stands here. Pin another beside it.")}
      taken={of}
      count={of.length}
      onBase={(place) => set(of, of[place])}
      onTakeOff={(place) =>
        set(
          of.filter((_, at) => at !== place),
          of[base],
        )
      }
      onAdd={(id) => set([...of, id], of[base])}
    >
      {rich(
        "Picked in the {link}, each held against the base. The address of this page brings them back.",
        {
          link: (
            <Link className="text-choice underline" to="/">
              {t("list of cases")}
            </Link>
          ),
        },
      )}
    </Beside>
  );
}
