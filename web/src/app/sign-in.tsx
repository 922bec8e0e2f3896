import { useState } from "react";
import { useDoor, useEnter, useEnterDemo } from "../api/entering";
import type { Me } from "../api/types";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Wrong } from "../ui/wrong";
import { t } from "../texts";

interface Props {
  /** Why one is asked again. */
  why?: string;
  onIn: (me: Me) => void;
}

/** Whether the administration sent someone here to sign in. */
const isForAdministration = () =>
  new URLSearchParams(location.search).get("to") === "administration";

/** The way in: a name and a password, and in the demo a door of its own. */
export function SignIn({ why, onIn }: Props) {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const door = useDoor();
  const enter = useEnter(
    (me) => {
      if (isForAdministration()) location.assign("/admin/");
      onIn(me);
    },
    () => setPassword(""),
  );
  const demo = useEnterDemo(onIn);
  return (
    <div className="w-full max-w-sm rounded-lg border border-rule bg-sheet p-7 shadow-xl">
      <p className="font-serif text-2xl font-semibold">
        zephyrant<span className="text-choice">~</span>
      </p>
      <h1 className="mt-4 text-lg font-semibold">{t("Sign in")}</h1>
      {why && <p className="text-soft">{why}</p>}
      <form
        className="mt-3 space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          enter.mutate({ username, password });
        }}
      >
        <Field
          above
          look="large"
          label={t("Name")}
          value={username}
          autoComplete="username"
          autoFocus
          required
          className="mt-1 w-full"
          onType={setUsername}
        />
        <Field
          above
          look="large"
          label={t("Password")}
          type="password"
          value={password}
          autoComplete="current-password"
          required
          className="mt-1 w-full"
          onType={setPassword}
        />
        <Wrong error={enter.error ?? demo.error} className="" />
        <Button look="main" type="submit" className="w-full" disabled={enter.isPending}>
          {t("Sign in")}
        </Button>
      </form>
      {door.data?.demo && (
        <div className="mt-5 border-t border-rule pt-4">
          <p className="text-sm text-soft">
            {t("This is a demonstration; all its cases are made up.")}
          </p>
          <Button className="mt-2 w-full" onClick={() => demo.mutate()}>
            {t("Enter the demo desk")}
          </Button>
        </div>
      )}
    </div>
  );
}
