import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { startFromFlows } from "../../api/flows";
import { useDesk } from "../../hooks/use-desk";
import { sends } from "../../hooks/sends";
import { useOpened } from "../../hooks/use-opened";
import { Button } from "../../ui/button";
import { Area, Field } from "../../ui/field";
import { Sheet } from "../../ui/sheet";
import { nameOf, Upload } from "../../ui/upload";
import { Wrong } from "../../ui/wrong";
import { t } from "../../texts";

/** Flows without a loan round them: pasted or opened, they become a case that asks for the rate. */
export function FlowsSheet({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const { me, words } = useDesk();
  const [text, setText] = useState("");
  const [name, setName] = useState("");
  const [currency, setCurrency] = useState(me.begins.currency);
  const onSuccess = useOpened();
  const start = useMutation({
    mutationFn: () => startFromFlows({ text, name, currency }),
    onSuccess,
  });
  return (
    <Sheet
      title={t("Flows")}
      about={t("Days and amounts without a loan round them: every rate that fits is found.")}
      open={open}
      onOpen={onOpen}
      asks
    >
      <div className="mt-4 flex flex-wrap gap-3">
        <Field
          name={t("Name of the flows")}
          placeholder={t("Name")}
          value={name}
          maxLength={words.limits.name}
          className="grow"
          onType={setName}
        />
        <Field
          name={t("Currency of the flows")}
          value={currency}
          maxLength={3}
          className="w-20"
          onType={(typed) => setCurrency(typed.toUpperCase())}
        />
      </div>
      <Area
        name={t("Days and amounts")}
        rows={10}
        value={text}
        maxLength={words.limits.pasted}
        placeholder={t("date;amount\n1 Mar 2027;-186,400\n1 Sep 2028;52,000")}
        className="mt-3 w-full font-mono text-sm"
        onType={setText}
        onKeyDown={sends(() => start.mutate())}
      />
      <p className="text-sm text-soft">
        {t("Columns date and amount (below zero what goes out), or date, out and in.")}
      </p>
      <div className="mt-3 flex gap-3">
        <Upload
          name={t("Flows to open")}
          accept=".csv,.txt,text/csv"
          onFile={(file) => {
            setName((now) => now || nameOf(file));
            void file.text().then(setText);
          }}
        >
          {t("Open a file")}
        </Upload>
        <Button look="main" className="ml-auto" onClick={() => start.mutate()}>
          {t("Find the rate")}
        </Button>
      </div>
      <Wrong error={start.error} className="mt-3" />
    </Sheet>
  );
}
