import { Link } from "react-router";

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
    <main className="mx-auto max-w-xl p-8">
      <h1 className="font-serif text-2xl font-semibold">{what}</h1>
      <p className="mt-2">
        {why}{" "}
        <Link className="text-choice underline" to={to}>
          {list}
        </Link>
      </p>
    </main>
  );
}
