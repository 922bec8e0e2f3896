import { useMemo } from "react";
import { NavLink, useNavigate } from "react-router";
import { useKeys } from "../../hooks/use-keys";
import { t } from "../../texts";

/** The two sides of Rates: one quote on every footing, several quotes beside each other. */
export function RatesTabs() {
  const navigate = useNavigate();
  const keys = useMemo(
    () => [{ key: "v", run: () => void navigate("/rates/side-by-side") }],
    [navigate],
  );
  useKeys(keys);
  return (
    <nav aria-label={t("Rates")} className="flex gap-5 text-lg">
      {[
        ["/rates", t("One quote")],
        ["/rates/side-by-side", t("Side by side")],
      ].map(([to = "", label]) => (
        <NavLink
          key={to}
          to={to}
          end={to === "/rates"}
          className={({ isActive }) =>
            isActive
              ? "border-b-2 border-ink font-semibold"
              : "border-b-2 border-transparent text-soft hover:text-ink"
          }
        >
          {label}
        </NavLink>
      ))}
    </nav>
  );
}
