import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client, type Me } from "../api/client";

interface Props {
  /** Why one is asked again. */
  why?: string;
  onIn: (me: Me) => void;
}

/** The way in: a name and a password, and in the demo a door of its own. */
export function SignIn({ why, onIn }: Props) {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const door = useQuery({
    queryKey: ["door"],
    queryFn: () => ask(client.GET("/api/v1/door")),
    staleTime: Infinity,
  });
  const enter = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/session", { body: { username, password } })),
    onSuccess: onIn,
    onError: () => setPassword(""),
  });
  const demo = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/session/demo")),
    onSuccess: onIn,
  });
  const refused = enter.error ?? demo.error;
  const field = "mt-1 w-full rounded border border-rule-strong bg-sheet px-3 py-2";
  return (
    <div className="w-full max-w-sm rounded-lg border border-rule bg-sheet p-7 shadow-xl">
      <p className="font-serif text-2xl font-semibold">
        zephyrant<span className="text-choice">~</span>
      </p>
      <h1 className="mt-4 text-lg font-semibold">Sign in</h1>
      {why && <p className="text-soft">{why}</p>}
      <form
        className="mt-3 space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          enter.mutate();
        }}
      >
        <label className="block">
          Name
          <input
            className={field}
            value={username}
            autoComplete="username"
            autoFocus
            required
            onChange={(event) => setUsername(event.target.value)}
          />
        </label>
        <label className="block">
          Password
          <input
            className={field}
            type="password"
            value={password}
            autoComplete="current-password"
            required
            onChange={(event) => setPassword(event.target.value)}
          />
        </label>
        {refused && (
          <p role="alert" className="text-wrong">
            {refused.message}
          </p>
        )}
        <button
          className="w-full rounded bg-ink px-4 py-2 font-semibold text-paper"
          disabled={enter.isPending}
        >
          Sign in
        </button>
      </form>
      {door.data?.demo && (
        <div className="mt-5 border-t border-rule pt-4">
          <p className="text-sm text-soft">This is a demonstration; all its cases are made up.</p>
          <button
            className="mt-2 w-full rounded border border-rule-strong px-4 py-2"
            onClick={() => demo.mutate()}
          >
            Enter the demo desk
          </button>
        </div>
      )}
    </div>
  );
}
