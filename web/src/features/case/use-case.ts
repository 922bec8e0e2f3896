import { useCallback, useMemo, useState } from "react";
import { sendCase } from "../../api/case";
import { getCase } from "../../api/cases";
import type { CaseOpened, Content, Statement } from "../../api/types";
import { beginning } from "../../hooks/keeper";
import { patched } from "../../hooks/patched";
import { useDesk } from "../../hooks/use-desk";
import { useKept } from "../../hooks/use-kept";
import { useUndo } from "../../hooks/use-undo";
import { contentOf } from "./content";
import { asked, entryWord, textOf, withText, type EntryName } from "./entries";
import { useWorked } from "./use-worked";

/** A case on its page: what stands in it, kept as it changes, and its answer. */
export function useCaseOnPage(opened: CaseOpened, yearStarts: number | null) {
  const { me, words } = useDesk();
  const keeper = { opened, username: me.username, mayEdit: opened.may_edit, contentOf };
  const [content, setContent] = useState(() => beginning(keeper));
  const send = useMemo(() => sendCase(opened.id), [opened.id]);
  const askNow = useCallback(() => getCase(opened.id), [opened.id]);
  const make = useCallback(
    (from: Content, to: Content) => setContent((now) => patched(now, from, to)),
    [],
  );
  const { step, arrived } = useUndo(content, make);
  const kept = useKept({ ...keeper, send, ask: askNow }, content, (arriving) => {
    arrived(arriving);
    setContent(arriving);
  });
  const { statement } = content;
  const work = useWorked(statement, yearStarts);
  const { worked, current, good } = work;

  const change = (changed: Partial<Statement>) =>
    setContent((now) => ({ ...now, statement: { ...now.statement, ...changed } }));
  // What else has changed meanwhile stays changed.
  const setText = (name: EntryName, text: string) =>
    setContent((now) => ({ ...now, statement: withText(now.statement, name, text) }));
  const changeBeside = (changed: Partial<Content>) => setContent((now) => ({ ...now, ...changed }));

  /** Makes a figure the unknown; the one unknown so far keeps what was found for it. */
  const askFor = (name: EntryName) => {
    const before = asked(statement, words);
    let next = withText(statement, name, "?");
    if (before && before !== name) {
      // While something else is half typed, what was found last stays good.
      const found = good?.figures.find((figure) => figure.is_asked)?.entry === before;
      next = withText(next, before, (found && good?.told.typed) || "");
      // What follows from cover and value is then stated besides.
      for (const [entry, text] of Object.entries((found && good?.told.typed_with) || {}))
        if (entry !== name) next = withText(next, entry, text);
    }
    change(next);
  };
  const type = (name: EntryName, text: string) => {
    if (text.includes("?") && entryWord(name, words)?.may_be_asked) askFor(name);
    else setText(name, text);
  };
  const leave = (name: EntryName, isEdited: boolean) => {
    if (!isEdited) return;
    kept.leaveField();
    const reading = current ? worked?.readings[name] : undefined;
    const typed = textOf(statement, name);
    if (typed && reading?.text && !reading.other && reading.text !== typed)
      setText(name, reading.text);
  };
  return {
    content,
    setContent,
    ...kept,
    ...work,
    step,
    change,
    changeBeside,
    askFor,
    type,
    leave,
  };
}

export type CaseOnPage = ReturnType<typeof useCaseOnPage>;
