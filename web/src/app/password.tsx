import { useState } from "react";
import { Refused } from "../api/client";
import { useChangePassword } from "../api/entering";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Sheet } from "../ui/sheet";
import { Wrong } from "../ui/wrong";
import { t } from "../texts";

/** Another password for oneself. */
export function PasswordSheet({
  open,
  onOpen,
}: {
  open: boolean;
  onOpen: (open: boolean) => void;
}) {
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const change = useChangePassword(() => {
    setOld("");
    setFresh("");
  });
  const errors = change.error instanceof Refused ? change.error.errors : [];
  const field = (label: string, name: string, value: string, set: (text: string) => void) => (
    <div>
      <Field
        above
        look="large"
        label={label}
        type="password"
        required
        value={value}
        autoComplete={name === "old" ? "current-password" : "new-password"}
        className="mt-1 w-full"
        onType={set}
      />
      {errors
        .filter((error) => error.field === name)
        .map((error) => (
          <Wrong key={error.message} error={error} className="text-sm" />
        ))}
    </div>
  );
  return (
    <Sheet
      title={t("Password")}
      about={t("Other windows you are signed in on will ask for the new one.")}
      open={open}
      onOpen={onOpen}
      asks
    >
      <form
        className="mt-4 max-w-sm space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate({ old, new: fresh });
        }}
      >
        {field(t("Password now"), "old", old, setOld)}
        {field(t("New password"), "new", fresh, setFresh)}
        {errors.length === 0 && <Wrong error={change.error} />}
        <Button look="main" type="submit">
          {t("Change password")}
        </Button>
        {change.isSuccess && <p role="status">{t("Your password is changed.")}</p>}
      </form>
    </Sheet>
  );
}
