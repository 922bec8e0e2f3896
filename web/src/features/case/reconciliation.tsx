import { useState } from "react";
import { askReconciliation } from "../../api/asking";
import type { Matched, Reconciliation, Statement } from "../../api/types";
import { sends } from "../../hooks/sends";
import { useDesk } from "../../hooks/use-desk";
import { useStoppable } from "../../hooks/use-stoppable";
import { Button } from "../../ui/button";
import { Area, Field } from "../../ui/field";
import { countedRows } from "../../ui/numbers";
import { Sheet } from "../../ui/sheet";
import { StillWorking } from "../../ui/still-working";
import { ToldTable } from "../../ui/table";
import { Upload } from "../../ui/upload";
import { Unread, Wrong } from "../../ui/wrong";
import { WhichColumn } from "./which-column";
import { t } from "../../texts";

const MOST_UNREAD = 20;

interface Props {
  statement: Statement;
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** Somebody's schedule held against ours, row by row. */
export function Against({ statement, open, onOpen }: Props) {
  const { limits } = useDesk().words;
  const [text, setText] = useState("");
  const [tolerance, setTolerance] = useState("0.01");
  const hold = useStoppable(askReconciliation);
  const found = hold.data;
  const compare = (matched: Matched | null) => hold.run({ statement, text, matched, tolerance });
  return (
    <Sheet
      title={t("Hold theirs against ours")}
      about={t(
        "A schedule from elsewhere, as CSV: which rows differ, by how much, and where it began.",
      )}
      open={open}
      onOpen={onOpen}
      asks
    >
      <Area
        name={t("Their schedule")}
        value={text}
        rows={6}
        maxLength={limits.pasted}
        placeholder={t("Paste their table here, with the names of its columns on top")}
        className="mt-4 w-full font-mono text-sm"
        onType={setText}
        onKeyDown={sends(() => compare(null))}
      />
      <div className="mt-2 flex flex-wrap items-baseline gap-3">
        <Upload
          name={t("Schedule to hold against ours")}
          accept=".csv,.txt,text/csv"
          onFile={(file) => void file.text().then(setText)}
        >
          {t("Open a file")}
        </Upload>
        <Field
          label={t("A figure may differ by")}
          value={tolerance}
          maxLength={limits.typed}
          className="w-20 text-right"
          onType={setTolerance}
        />
        <Button look="main" className="ml-auto" onClick={() => compare(null)}>
          {t("Compare")}
        </Button>
      </div>
      <StillWorking busy={hold.busy} stopping={hold.stopping} />
      <Wrong error={hold.error} className="mt-3" />
      {found?.ask && <WhichColumn key={found.names.join()} found={found} onMatched={compare} />}
      {found && !found.ask && <Differences found={found} />}
    </Sheet>
  );
}

function Differences({ found }: { found: Reconciliation }) {
  const { marks } = useDesk();
  return (
    <div className="mt-4">
      <p role="status" className="font-serif text-xl font-semibold">
        {found.says}
      </p>
      <p className="text-soft">
        {t("{compared} compared.", { compared: countedRows(found.compared, marks) })}
      </p>
      {found.unread.length > 0 && (
        <div role="alert" className="mt-2 border-l-2 border-wrong pl-3">
          <Unread errors={found.unread.slice(0, MOST_UNREAD)} />
        </div>
      )}
      {found.told && found.told.rows.length > 0 && (
        <ToldTable
          label={t("What differs")}
          told={found.told}
          strong={3}
          className="mt-3 text-[0.95rem]"
        />
      )}
    </div>
  );
}
