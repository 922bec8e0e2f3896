import { useGlossary } from "../../api/glossary";
import { Wrong } from "../../ui/wrong";
import { t } from "../../texts";

/** Every word that is explained, under its heading. */
export function Words({ id }: { id: string }) {
  const { data, error } = useGlossary();
  const terms = data ?? [];
  const headings = [...new Set(terms.map((term) => term.about))];
  return (
    <section id={id} aria-labelledby="words-title" className="scroll-mt-4">
      <h2 id="words-title" className="font-serif text-xl font-semibold">
        {t("Words")}
      </h2>
      <p className="mt-1 text-soft">
        {t("They are explained where they stand, too: rest the pointer or the focus on one.")}
      </p>
      <Wrong error={error} className="mt-3" />
      {headings.map((about) => (
        <div key={about}>
          <h3 className="mt-4 font-semibold text-soft">{about}</h3>
          <dl>
            {terms
              .filter((term) => term.about === about)
              .map((term) => (
                <div key={term.name} className="mt-1.5">
                  <dt className="font-semibold">{term.title}</dt>
                  <dd>{term.says}</dd>
                </div>
              ))}
          </dl>
        </div>
      ))}
    </section>
  );
}
