import type { ReactNode } from "react";
import type { Reading, Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { AsideButton } from "../../ui/aside-button";
import { Choice, OneOf } from "../../ui/choice";
import { Lines } from "../../ui/lines";
import { everyChosen, everyOptions, periodOf } from "../../ui/quoting";
import { titleOf, type EntryName } from "./entries";
import { KeptIndices } from "./kept-indices";
import { rich, t } from "../../texts";

interface Props {
  statement: Statement;
  readings: Record<string, Reading> | undefined;
  figure: (name: EntryName) => ReactNode;
  onChange: (change: Partial<Statement>) => void;
  onType: (name: EntryName, text: string) => void;
  onLeave: (name: EntryName, isEdited: boolean) => void;
}

/** How a floating rate moves: its bounds, its resets, the fixings of its index, the path ahead. */
export function FloatingLine({ statement, readings, figure, onChange, onType, onLeave }: Props) {
  const { words } = useDesk();
  const { floating } = statement;
  if (!floating) return null;
  const change = (changed: Partial<typeof floating>) =>
    onChange({ floating: { ...floating, ...changed } });
  const list = (name: "fixings" | "ahead", placeholder: string) => (
    <Lines
      name={`floating.${name}`}
      label={titleOf(`floating.${name}`, words)}
      text={floating[name]}
      placeholder={placeholder}
      error={readings?.[`floating.${name}`]?.error ?? undefined}
      onType={(text) => onType(`floating.${name}`, text)}
      onBlur={(isEdited) => onLeave(`floating.${name}`, isEdited)}
    />
  );
  return (
    <div className="mt-2 font-serif text-[1.15rem] leading-[2.2rem]" data-floating>
      <p>
        {rich(
          "The rate follows {index}, reset every {period} and fixed {days} days before; the first is {first} %. The {held} is at least {floor} % and at most {cap} %, and at a reset {payments}.",
          {
            index: figure("floating.index"),
            period: (
              <Choice
                name={t("Reset every")}
                value={String(floating.resets)}
                shown={periodOf(floating.resets, words).noun}
                options={everyOptions(floating.resets, words)}
                onChoose={(every) => change({ resets: everyChosen(every) })}
              />
            ),
            days: figure("floating.lag_days"),
            first: figure("floating.first"),
            held: (
              <OneOf
                name={t("Held in bounds")}
                value={floating.on}
                options={words.choices.held}
                onChoose={(on) => change({ on })}
              />
            ),
            floor: figure("floating.floor"),
            cap: figure("floating.cap"),
            payments: (
              <OneOf
                name={t("Payments at a reset")}
                value={floating.then ?? "kept"}
                options={words.choices.at_reset}
                onChoose={(then) => change({ then: then === "kept" ? null : then })}
              />
            ),
          },
        )}{" "}
        <AsideButton onClick={() => onChange({ floating: null })}>{t("Fix the rate")}</AsideButton>
      </p>
      <div className="mt-1 flex flex-wrap gap-x-6 gap-y-1 font-sans text-base leading-normal">
        {list("fixings", "2026-06-30 2.31")}
        {list("ahead", t("flat"))}
      </div>
      <KeptIndices
        floating={floating}
        marks={statement.marks}
        onTake={(index, fixings) => change({ index, fixings })}
      />
      <p>
        {rich("Ahead {shift} percentage points are added from {day} on.", {
          shift: figure("floating.shift"),
          day: figure("floating.shift_from"),
        })}
      </p>
    </div>
  );
}
