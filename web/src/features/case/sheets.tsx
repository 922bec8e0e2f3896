import { useQueryClient } from "@tanstack/react-query";
import { answerWith } from "../../api/answer-with";
import { caseKey } from "../../api/cases";
import type { Asides, CaseOpened } from "../../api/types";
import { later } from "../../ui/later";
import { History } from "./history";
import { NO_MORE, PayingMore } from "./paying-more";
import { SettledEarly } from "./payoff";
import { NO_POINTS, PointsForALowerRate } from "./points";
import { Against } from "./reconciliation";
import { Refinanced } from "./refinanced";
import { WhatMoves } from "./sensitivity";
import { Sharing } from "./sharing";
import { Trail } from "./trail";
import type { CaseOnPage } from "./use-case";
import type { SheetName } from "./use-sheet";
import { Working } from "./working";

const Review = later(async () => (await import("./review")).Review);

interface Props {
  opened: CaseOpened;
  onPage: CaseOnPage;
  asides: Asides;
  onAsides: (changed: Partial<Asides>) => void;
  sheet: SheetName | null;
  onSheet: (sheet: SheetName | null) => void;
  /** The figure that a comment is begun on. */
  figure: string;
}

/** What is asked beside a case, a sheet each. */
export function Sheets({ opened, onPage, asides, onAsides, sheet, onSheet, figure }: Props) {
  const queries = useQueryClient();
  const { content, change, flush, keeping, good, worked } = onPage;
  const { statement } = content;
  const of = (name: SheetName) => ({
    open: sheet === name,
    onOpen: (open: boolean) => onSheet(open ? name : null),
  });
  return (
    <>
      <WhatMoves
        content={content}
        figures={worked?.figures ?? good?.figures ?? []}
        moves={asides.moves ?? null}
        onMoves={(moves) => onAsides({ moves })}
        {...of("moves")}
      />
      <PayingMore
        content={content}
        more={asides.more ?? NO_MORE}
        onMore={(more) => onAsides({ more })}
        {...of("more")}
      />
      <PointsForALowerRate
        content={content}
        points={asides.points ?? NO_POINTS}
        onPoints={(points) => onAsides({ points })}
        {...of("points")}
      />
      <Trail
        caseId={opened.id}
        mayEdit={opened.may_edit}
        pins={asides.pins}
        flush={flush}
        saved={keeping.state === "saved" ? keeping.at.getTime() : null}
        onBack={(given) => change({ ...given, name: statement.name })}
        onPins={(pins) => onAsides({ pins })}
        {...of("trail")}
      />
      <SettledEarly statement={statement} {...of("settled")} />
      <Refinanced content={content} {...of("refinanced")} />
      <Against statement={statement} {...of("against")} />
      {good && <Working answer={good.answer} {...of("working")} />}
      <History
        caseId={opened.id}
        mayEdit={opened.may_edit}
        flush={flush}
        onBack={(back) => void answerWith(queries, caseKey(opened.id), back)}
        {...of("history")}
      />
      {sheet === "review" && (
        <Review opened={opened} figure={figure} flush={flush} {...of("review")} />
      )}
      {!opened.owner && <Sharing caseId={opened.id} {...of("share")} />}
    </>
  );
}
