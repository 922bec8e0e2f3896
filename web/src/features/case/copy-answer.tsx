import { useMemo, useState } from "react";
import type { Answer, Told } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useKeys } from "../../hooks/use-keys";
import { Menu } from "../../ui/menu";
import { t } from "../../texts";

const SAID_FOR = 2_500;

/** Copies the answer, as a number other programs read in the reader's marks, or as a sentence. */
export function CopyAnswer({ answer, told }: { answer: Answer; told: Told }) {
  const { marks } = useDesk();
  const [copied, setCopied] = useState("");
  const number = (answer.value ?? "").replace(".", marks.decimal);
  const { said } = told;
  const [asNumber, asSentence] = useMemo(() => {
    const copy = async (text: string, what: string) => {
      try {
        await navigator.clipboard.writeText(text);
        setCopied(t("{what} copied", { what }));
      } catch {
        setCopied(t("This browser does not let it be copied."));
      }
      setTimeout(() => setCopied(""), SAID_FOR);
    };
    return [() => void copy(number, number), () => void copy(said, t("Sentence"))] as const;
  }, [number, said]);
  const keys = useMemo(
    () => [
      { key: "k", run: asNumber },
      { key: "d", run: asSentence },
    ],
    [asNumber, asSentence],
  );
  useKeys(keys);
  return (
    <span className="flex items-baseline gap-2 text-sm text-soft print:hidden">
      <Menu
        name={t("Copy what was found")}
        actions={[
          { label: t("As a number (k)"), run: asNumber },
          { label: t("As a sentence (d)"), run: asSentence },
        ]}
      >
        {t("Copy")} <span aria-hidden>▾</span>
      </Menu>
      <span role="status">{copied}</span>
    </span>
  );
}
