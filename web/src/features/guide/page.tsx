import { useEffect } from "react";
import { useLocation, useNavigate } from "react-router";
import { useExample, useGuide } from "../../api/guide";
import type { JobTold } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Page, PageTitle } from "../../ui/page";
import { Wrong } from "../../ui/wrong";
import { Words } from "./words";
import { t } from "../../texts";

const WORDS = "words";

/** What analysts come for, job by job, and every word that is explained. */
export function GuidePage() {
  const { marks } = useDesk();
  const navigate = useNavigate();
  const { hash } = useLocation();
  const guide = useGuide(marks.name);
  const example = useExample((to) => void navigate(to));
  const jobs = guide.data ?? [];
  const isThere = jobs.length > 0;
  useEffect(() => {
    // Where the address names a job, the page begins with it once it is drawn.
    if (isThere && hash) document.getElementById(hash.slice(1))?.scrollIntoView();
  }, [isThere, hash]);
  return (
    <Page title={t("Guide")}>
      <PageTitle>{t("Guide")}</PageTitle>
      <p className="mt-1 text-soft">
        {t(
          "What analysts come for, job by job. Each example opens as one of your own: change it, keep it, throw it away. Press h for every key.",
        )}
      </p>
      <Wrong error={guide.error ?? example.error} className="mt-3" />
      <div className="mt-5 grid grid-cols-[minmax(0,1fr)] gap-x-12 gap-y-6 lg:grid-cols-[17rem_minmax(0,1fr)]">
        <nav aria-label={t("Jobs")} className="text-[0.95rem] lg:sticky lg:top-4 lg:self-start">
          <ul className="grid gap-x-6 gap-y-1 sm:grid-cols-2 lg:grid-cols-1">
            {[...jobs, { name: WORDS, title: t("Words") }].map(({ name, title }) => (
              <li key={name}>
                <a href={`#${name}`} className="text-choice hover:underline">
                  {title}
                </a>
              </li>
            ))}
          </ul>
        </nav>
        <div className="max-w-3xl">
          {jobs.map((job) => (
            <Job key={job.name} job={job} onOpen={() => example.mutate(job.name)} />
          ))}
          {isThere && <Words id={WORDS} />}
        </div>
      </div>
    </Page>
  );
}

function Job({ job, onOpen }: { job: JobTold; onOpen: () => void }) {
  const { name, title, when, steps, line, answer } = job;
  return (
    <section id={name} aria-labelledby={`${name}-title`} className="mb-8 scroll-mt-4">
      <h2 id={`${name}-title`} className="font-serif text-xl font-semibold">
        {title}
      </h2>
      <p className="mt-1">{when}</p>
      <ol className="mt-2 list-decimal space-y-1 pl-5">
        {steps.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
      <div className="mt-3 rounded-lg border border-rule bg-sheet px-4 py-3">
        {line && <p className="font-serif text-lg">{line}</p>}
        <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          {answer && <span className="text-soft">{answer}.</span>}
          <Button
            look="link"
            aria-label={t("Open the example: {title}", { title })}
            onClick={onOpen}
          >
            {t("Open the example")}
          </Button>
        </p>
      </div>
    </section>
  );
}
