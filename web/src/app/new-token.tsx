import { useState } from "react";
import { Refused } from "../api/client";
import { useMakeToken } from "../api/tokens";
import type { TokenAsked, TokenMade } from "../api/types";
import { useDesk } from "../hooks/use-desk";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Select } from "../ui/select";
import { Tick } from "../ui/tick";
import { Wrong } from "../ui/wrong";
import { rich, t } from "../texts";

type May = TokenAsked["may"][number];

/** A new key, shown this once. */
function Shown({ made }: { made: TokenMade }) {
  const [said, setSaid] = useState("");
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(made.key);
      setSaid(t("Copied"));
    } catch {
      setSaid(t("This browser does not let it be copied: mark it and copy it."));
    }
  };
  return (
    <div role="status" className="mt-3 rounded border border-rule-strong p-3">
      <p>
        {rich("The key of {name}. It is shown this once: keep it where your program finds it.", {
          name: <strong>{made.name}</strong>,
        })}
      </p>
      <p className="mt-2 font-mono text-sm break-all select-all">{made.key}</p>
      <p className="mt-2 flex items-baseline gap-3">
        <Button onClick={() => void copy()}>{t("Copy the key")}</Button> <span>{said}</span>
      </p>
      <p className="mt-2 text-sm text-soft">
        {rich("It is sent as a header: {header} and the key.", {
          header: <span className="font-mono">{"Authorization: Bearer"}</span>,
        })}
      </p>
    </div>
  );
}

/** A token asked for: its name, what it may, until when. */
export function NewToken() {
  const { words } = useDesk();
  const [name, setName] = useState("");
  const [may, setMay] = useState<string[]>(["compute"]);
  const [days, setDays] = useState("90");
  const make = useMakeToken();
  const errors = make.error instanceof Refused ? make.error.errors : [];
  const wrong = (field: string) =>
    errors
      .filter((error) => error.field === field)
      .map((error) => <Wrong key={error.message} error={error} className="text-sm" />);
  return (
    <form
      className="mt-4 space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate(
          { name, may: may as May[], days: Number(days) },
          { onSuccess: () => setName("") },
        );
      }}
    >
      <Field
        above
        look="large"
        label={t("A new token for")}
        placeholder={t("Night run")}
        maxLength={words.limits.token_name}
        value={name}
        className="mt-1 w-full"
        onType={setName}
      />
      {wrong("name")}
      <fieldset>
        <legend className="text-soft">{t("It may")}</legend>
        {words.token_may.map(({ value, label }) => (
          <div key={value} className="flex items-center gap-2 py-0.5">
            <Tick
              name={label}
              checked={may.includes(value)}
              onTick={(ticked) =>
                setMay(ticked ? [...may, value] : may.filter((each) => each !== value))
              }
            />
            <span aria-hidden>{label}</span>
          </div>
        ))}
      </fieldset>
      {wrong("may")}
      <Select
        label={t("It holds for")}
        value={days}
        options={words.token_days.map((each) => ({
          value: String(each),
          label: t("{each} days", { each }),
        }))}
        onChoose={setDays}
      />
      {wrong("days")}
      {errors.length === 0 ? <Wrong error={make.error} /> : wrong("")}
      <Button look="main" type="submit" disabled={make.isPending}>
        {t("Make the token")}
      </Button>
      {make.data && <Shown made={make.data} />}
    </form>
  );
}
