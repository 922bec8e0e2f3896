import { CannotOpen } from "../ui/cannot-open";
import { t } from "../texts";

/** An address at which there is nothing. */
export function NotHere() {
  return (
    <CannotOpen
      what={t("There is nothing at this address")}
      why={t("The case may be another analyst’s, or the link is not whole.")}
      to="/"
      list={t("To your cases")}
    />
  );
}
