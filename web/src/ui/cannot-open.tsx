import { Link } from "react-router";
import { Instead } from "./instead";

/** What was to be opened is not there, or not theirs. */
export function CannotOpen({
  what,
  why,
  to,
  list,
}: {
  what: string;
  why: string;
  to: string;
  list: string;
}) {
  return (
    <Instead what={what}>
      {why}{" "}
      <Link className="text-choice underline" to={to}>
        {list}
      </Link>
    </Instead>
  );
}
