import { useRevokeToken, useTokens } from "../api/tokens";
import type { TokenHeld } from "../api/types";
import { Button } from "../ui/button";
import { useDays } from "../ui/moment";
import { Sheet } from "../ui/sheet";
import { Wrong } from "../ui/wrong";
import { NewToken } from "./new-token";
import { t } from "../texts";

function Held({ token }: { token: TokenHeld }) {
  const { day, moment } = useDays();
  const revoke = useRevokeToken();
  const ended =
    !token.holds &&
    (token.revoked_at
      ? t("revoked {at}", { at: moment(token.revoked_at) })
      : t("ended {at}", { at: day(token.ends_at) }));
  return (
    <li className="py-2">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <span className={ended ? "text-soft line-through" : "font-semibold"}>{token.name}</span>
        {ended ? (
          <span className="text-soft">{ended}</span>
        ) : (
          <Button
            look="link"
            aria-label={t("Revoke {name}", { name: token.name })}
            disabled={revoke.isPending}
            onClick={() => revoke.mutate(token.id)}
          >
            {t("Revoke")}
          </Button>
        )}
      </div>
      <p className="text-sm text-soft">
        {token.begins}… ·{" "}
        {t("may {may} · ends {endsAt} · {used}", {
          may: token.may.join(", "),
          endsAt: day(token.ends_at),
          used: token.used_at
            ? t("last used {usedAt}", { usedAt: moment(token.used_at) })
            : t("never used"),
        })}
      </p>
      <Wrong error={revoke.error} className="text-sm" />
    </li>
  );
}

/** The tokens by which one's programs ask, and the page of the API. */
export function TokensSheet({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const tokens = useTokens();
  return (
    <Sheet
      title={t("API and tokens")}
      about={t(
        "A program asks in your name with a token: it sees what you see, and does what you let it. Another password leaves tokens as they are.",
      )}
      open={open}
      onOpen={onOpen}
      asks
    >
      <p className="mt-3">
        <a className="text-choice underline" href="/api/v1/docs" target="_blank" rel="noreferrer">
          {t("The API, with examples that run")}
        </a>
      </p>
      <NewToken />
      <h3 className="mt-6 font-serif text-lg">{t("Your tokens")}</h3>
      <Wrong error={tokens.error} />
      {tokens.data?.length === 0 && <p className="text-soft">{t("There are none yet.")}</p>}
      <ul aria-label={t("Tokens")} className="divide-y divide-rule">
        {tokens.data?.map((token) => (
          <Held key={token.id} token={token} />
        ))}
      </ul>
    </Sheet>
  );
}
