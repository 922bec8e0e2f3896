import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client, Refused } from "../api/client";
import { Sheet } from "../ui/sheet";

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
  const change = useMutation({
    mutationFn: () => ask(client.PUT("/api/v1/password", { body: { old, new: fresh } })),
    onSuccess: () => {
      setOld("");
      setFresh("");
    },
  });
  const errors = change.error instanceof Refused ? change.error.errors : [];
  const field = (label: string, name: string, value: string, set: (text: string) => void) => (
    <label className="block">
      {label}
      <input
        type="password"
        required
        value={value}
        autoComplete={name === "old" ? "current-password" : "new-password"}
        className="mt-1 w-full rounded border border-rule-strong bg-sheet px-3 py-2"
        onChange={(event) => set(event.target.value)}
      />
      {errors
        .filter((error) => error.field === name)
        .map((error) => (
          <span role="alert" key={error.message} className="block text-sm text-wrong">
            {error.message}
          </span>
        ))}
    </label>
  );
  return (
    <Sheet
      title="Password"
      about="Other windows you are signed in on will ask for the new one."
      open={open}
      onOpen={onOpen}
    >
      <form
        className="mt-4 max-w-sm space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        {field("Password now", "old", old, setOld)}
        {field("New password", "new", fresh, setFresh)}
        {change.error && errors.length === 0 && (
          <p role="alert" className="text-wrong">
            {change.error.message}
          </p>
        )}
        <button className="rounded bg-ink px-4 py-2 font-semibold text-paper">
          Change password
        </button>
        {change.isSuccess && <p role="status">Your password is changed.</p>}
      </form>
    </Sheet>
  );
}
