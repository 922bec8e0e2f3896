import { useMutation } from "@tanstack/react-query";
import { Link } from "react-router";
import { useGuide } from "../../api/guide";
import { askLine } from "../../api/said";
import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Wrong } from "../../ui/wrong";
import { rich, t } from "../../texts";

/** The jobs whose examples are offered where nothing is yet. */
const FIRST = ["payment", "how-long", "purchase"];

interface Props {
  currency: string;
  onSaid: (statement: Statement) => void;
}

/** What to begin with where nothing is yet: three examples, and the guide. */
export function Start({ currency, onSaid }: Props) {
  const { marks } = useDesk();
  const guide = useGuide(marks.name);
  const say = useMutation({
    mutationFn: (line: string) => askLine({ line, currency }),
    onSuccess: ({ statement }) => statement && onSaid(statement),
  });
  const jobs = FIRST.flatMap((name) => guide.data?.find((job) => job.name === name) ?? []);
  return (
    <section aria-labelledby="start" className="mt-8 max-w-3xl">
      <h2 id="start" className="font-serif text-xl font-semibold">
        {t("Begin with an example")}
      </h2>
      <ul className="mt-2 grid gap-3 sm:grid-cols-3">
        {jobs.map(({ name, title, line }) => (
          <li key={name}>
            <Button
              look="bare"
              className="flex h-full w-full flex-col rounded-lg border border-rule bg-sheet px-4 py-3 text-left hover:border-rule-strong"
              onClick={() => say.mutate(line)}
            >
              <span className="block text-sm text-soft">{title}</span>
              <span className="mt-1 block font-serif text-lg leading-snug">{line}</span>
            </Button>
          </li>
        ))}
      </ul>
      <Wrong error={say.error ?? guide.error} className="mt-2" />
      <p className="mt-3 text-soft">
        {rich("Or look in the {link}: twenty-odd things analysts come for, each with an example.", {
          link: (
            <Link className="text-choice underline" to="/guide">
              {t("guide")}
            </Link>
          ),
        })}
      </p>
    </section>
  );
}
